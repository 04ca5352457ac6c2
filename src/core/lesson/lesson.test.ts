import { describe, expect, it } from 'vitest'
import { checkEnvironment } from '../environment/document'
import { turnKnob } from '../environment/knobs'
import type { EnvironmentDocument } from '../kinds/kinds'
import { gridDocument } from '../testing/models'
import {
  addView,
  changeView,
  documentOfView,
  duplicateView,
  moveView,
  removeView,
  retakeView,
  sameButKnobs,
} from './lesson'
import { newLesson, type Lesson } from './lesson-document'
import { checkLesson, checkScene, parseLesson } from './read-lesson'

const HALL: EnvironmentDocument = checkEnvironment({
  ...gridDocument(['....'], { endings: [{ at: 'D1', reward: 10, name: 'door' }], veer: 0.1 }),
  name: 'Hall',
  knobs: [{ name: 'veer', sets: 'veer', low: 0, high: 0.5, step: 0.05 }],
})
const scene = (said: object = {}) => checkScene({ stage: 'plan', ...said }, HALL)
const words = (title: string) => ({ title, text: '', notes: '' })
const titles = ({ views }: Lesson) => views.map(({ title }) => title).join(' ')

function lessonOf(...names: string[]): Lesson {
  return names.reduce(
    (lesson, title) => addView(lesson, words(title), scene(), { shelf: 'a', document: HALL }),
    newLesson('Sweeps'),
  )
}

describe('views', () => {
  it('are added, moved, duplicated, changed and removed, each with a name of its own', () => {
    const lesson = lessonOf('one', 'two', 'three')
    expect(titles(lesson)).toBe('one two three')
    const [first, second] = lesson.views
    expect(titles(moveView(lesson, first.id, 2))).toBe('two three one')
    expect(titles(moveView(lesson, first.id, -1))).toBe('one two three')
    const copied = duplicateView(lesson, second.id)
    expect(titles(copied)).toBe('one two two three')
    expect(new Set(copied.views.map(({ id }) => id)).size).toBe(4)
    expect(titles(changeView(lesson, second.id, { title: 'zwei' }))).toBe('one zwei three')
    // Names are not used again while they are there.
    const again = addView(removeView(lesson, first.id), words('four'), scene(), {
      shelf: 'a',
      document: HALL,
    })
    expect(new Set(again.views.map(({ id }) => id)).size).toBe(3)
  })

  it('share an environment whatever its knobs are turned to, and leave none behind', () => {
    const turned = turnKnob(HALL, 'veer', 0.3)
    const other = { ...HALL, name: 'Another' }
    let lesson = addView(lessonOf('one'), words('two'), scene({ knobs: { veer: 0.3 } }), {
      shelf: 'a',
      document: turned,
    })
    expect(Object.keys(lesson.environments)).toHaveLength(1)
    lesson = addView(lesson, words('three'), scene(), { shelf: 'b', document: other })
    expect(Object.keys(lesson.environments)).toHaveLength(2)
    expect(Object.keys(removeView(lesson, lesson.views[2].id).environments)).toHaveLength(1)
    expect(sameButKnobs(HALL, turned)).toBe(true)
    expect(sameButKnobs(HALL, other)).toBe(false)
    expect(documentOfView(lesson.views[1].scene, HALL)).toEqual({ document: turned, lost: [] })
  })

  it('show something else with the same words, and what they showed is forgotten', () => {
    const lesson = lessonOf('one')
    const turned = retakeView(lesson, lesson.views[0].id, scene({ selected: 'B1' }), {
      shelf: 'a',
      document: turnKnob(HALL, 'veer', 0.3),
    })
    expect(turned.views[0]).toMatchObject({ title: 'one', scene: { selected: 'B1' } })
    expect(turned.environments).toEqual(lesson.environments)
    const other = { ...HALL, name: 'Drawn anew' }
    const drawn = retakeView(lesson, lesson.views[0].id, scene(), { shelf: null, document: other })
    expect(Object.values(drawn.environments)).toEqual([{ shelf: null, document: other }])
    expect(drawn.environments[drawn.views[0].environment].document).toBe(other)
  })

  it('tell knobs that are gone, or do not go so far any more', () => {
    const { document, lost } = documentOfView({ knobs: { veer: 0.9, draught: 1 } }, HALL)
    expect(document).toEqual(HALL)
    expect(lost).toEqual(['veer', 'draught'])
  })
})

describe('a document', () => {
  it('comes back from its JSON as it was', () => {
    const lesson = addView(
      lessonOf('one'),
      { title: 'two', text: '**bold** [[value of A1]]', notes: 'slowly' },
      scene({
        stage: 'learn',
        learn: { choice: { method: 'sarsa', episodes: 50 }, steps: 12 },
        selected: 'B1',
        tabs: { 'About the run': 'Episode' },
      }),
      { shelf: null, document: HALL },
    )
    expect(parseLesson(JSON.stringify(lesson))).toEqual(lesson)
    expect(lesson.views[1].scene.learn).toMatchObject({
      steps: 12,
      reached: 12,
      choice: { method: 'sarsa', discount: HALL.discount },
    })
    expect(lesson.views[1].timeline).toBe(true)
  })

  it('fills in what is not said', () => {
    const { views } = checkLesson({
      format: 'jaunty-pawn/lesson',
      version: 1,
      name: 'Short',
      environments: { hall: { document: HALL } },
      views: [
        { id: 'a', environment: 'hall', scene: { stage: 'plan', plan: { method: 'value-iteration' } } },
      ],
    })
    expect(views[0].scene).toMatchObject({
      view: 'board',
      layers: ['values', 'policy', 'changes'],
      learn: null,
      plan: { discount: HALL.discount, tolerance: 1e-9, finished: false, source: 'equiprobable' },
    })
  })

  it.each([
    [{ name: '' }, 'name'],
    [{ version: 2 }, 'version'],
    [{ views: [{ id: 'a', environment: 'attic', scene: { stage: 'plan' } }] }, 'views.0.environment'],
    [{ views: [{ id: 'a', environment: 'hall', scene: { stage: 'cellar' } }] }, 'views.0.scene.stage'],
    [
      { views: [{ id: 'a', environment: 'hall', scene: { stage: 'plan', layers: ['smell'] } }] },
      'views.0.scene.layers.0',
    ],
    [
      {
        views: [
          { id: 'a', environment: 'hall', scene: { stage: 'learn', learn: { choice: { method: 'guess' } } } },
        ],
      },
      'views.0.scene.learn.choice.method',
    ],
    [{ environments: { hall: { document: { ...HALL, discount: 2 } } } }, 'environments.hall, discount'],
    [{ surplus: 1 }, 'surplus'],
  ])('is refused with its place: %j', (wrong, place) => {
    const said = { ...lessonOf('one'), ...wrong }
    if ('views' in wrong) Object.assign(said, { environments: { hall: { document: HALL } } })
    expect(() => checkLesson(said)).toThrow(place)
  })

  it('is refused where two views have one name, and where it is no JSON', () => {
    const [view] = lessonOf('one').views
    expect(() => checkLesson({ ...lessonOf('one'), views: [view, view] })).toThrow('views.1')
    expect(() => parseLesson('{')).toThrow('not valid JSON')
  })
})
