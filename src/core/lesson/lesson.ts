import { knobsOf, turnKnob } from '../environment/knobs'
import type { EnvironmentDocument } from '../kinds/kinds'
import type { Lesson, LessonEnvironment, LessonView } from './lesson-document'
import type { Scene } from './scene'

/** What is said of a view. */
export type ViewWords = Pick<LessonView, 'title' | 'text' | 'notes'>

/** @param at  its place, from 0; at the end when left out */
export function addView(
  lesson: Lesson,
  words: ViewWords,
  scene: Scene,
  environment: LessonEnvironment,
  at = lesson.views.length,
): Lesson {
  const { key, environments } = withEnvironment(lesson, environment)
  const view: LessonView = {
    id: freshName(
      'view',
      lesson.views.map(({ id }) => id),
    ),
    ...words,
    environment: key,
    scene,
    // A curve that grows, and a moment to move.
    timeline: scene.stage === 'learn',
    column: false,
  }
  return {
    ...lesson,
    environments,
    views: lesson.views.toSpliced(at, 0, view),
  }
}

/** A view that shows something else from now on, with the same words. */
export function retakeView(lesson: Lesson, id: string, scene: Scene, environment: LessonEnvironment): Lesson {
  const { key, environments } = withEnvironment(lesson, environment)
  return withoutUnused(changeView({ ...lesson, environments }, id, { scene, environment: key }))
}

export function changeView(lesson: Lesson, id: string, part: Partial<Omit<LessonView, 'id'>>): Lesson {
  return {
    ...lesson,
    views: lesson.views.map((view) => (view.id === id ? { ...view, ...part } : view)),
  }
}

export function removeView(lesson: Lesson, id: string): Lesson {
  return withoutUnused({ ...lesson, views: lesson.views.filter((view) => view.id !== id) })
}

/** With an environment that is there once, whatever its knobs are turned to. @returns its key, too */
function withEnvironment({ environments }: Lesson, environment: LessonEnvironment) {
  const known = Object.entries(environments).find(
    ([, { shelf, document }]) => shelf === environment.shelf && sameButKnobs(document, environment.document),
  )
  if (known) return { key: known[0], environments }
  const key = freshName('environment', Object.keys(environments))
  return { key, environments: { ...environments, [key]: environment } }
}

/** Without environments that no view shows any more. */
function withoutUnused(lesson: Lesson): Lesson {
  const used = new Set(lesson.views.map(({ environment }) => environment))
  const environments = Object.entries(lesson.environments).filter(([key]) => used.has(key))
  return { ...lesson, environments: Object.fromEntries(environments) }
}

/** The same once more, right after it. */
export function duplicateView(lesson: Lesson, id: string): Lesson {
  const at = lesson.views.findIndex((view) => view.id === id)
  if (at < 0) return lesson
  const copy = {
    ...lesson.views[at],
    id: freshName(
      'view',
      lesson.views.map((view) => view.id),
    ),
  }
  return { ...lesson, views: lesson.views.toSpliced(at + 1, 0, copy) }
}

/** Some places up, below 0, or down. */
export function moveView(lesson: Lesson, id: string, by: number): Lesson {
  const from = lesson.views.findIndex((view) => view.id === id)
  const to = from + by
  if (from < 0 || to < 0 || to >= lesson.views.length) return lesson
  return { ...lesson, views: lesson.views.toSpliced(from, 1).toSpliced(to, 0, lesson.views[from]) }
}

/** What a view shows: its environment with the knobs as they were. Knobs that are gone, or do not go so far, stay. */
export function documentOfView({ knobs }: Pick<Scene, 'knobs'>, document: EnvironmentDocument) {
  const lost: string[] = []
  let turned = document
  for (const { name, value, low, high } of knobsOf(document)) {
    const wanted = Object.hasOwn(knobs, name) ? knobs[name] : value
    if (wanted === value) continue
    if (wanted >= low && wanted <= high) turned = turnKnob(turned, name, wanted)
    else lost.push(name)
  }
  const there = new Set(knobsOf(document).map(({ name }) => name))
  return { document: turned, lost: [...lost, ...Object.keys(knobs).filter((name) => !there.has(name))] }
}

/** Whether two documents differ in nothing but what their knobs are turned to. */
export function sameButKnobs(one: EnvironmentDocument, other: EnvironmentDocument): boolean {
  if (one === other) return true
  const knobs = Object.fromEntries(knobsOf(other).map(({ name, value }) => [name, value]))
  const { document, lost } = documentOfView({ knobs }, one)
  return lost.length === 0 && JSON.stringify(document) === JSON.stringify(other)
}

function freshName(stem: string, taken: readonly string[]): string {
  let number = taken.length + 1
  while (taken.includes(`${stem}-${number}`)) number++
  return `${stem}-${number}`
}
