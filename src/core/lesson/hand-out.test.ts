import { expect, it } from 'vitest'
import { gridDocument } from '../testing/models'
import { addView } from './lesson'
import { handedOut, lessonOfView, pageWith } from './hand-out'
import { newLesson, type Lesson } from './lesson-document'
import { checkLesson, checkScene } from './read-lesson'

const hall = gridDocument(['..:'], { endings: [{ at: 'C1', reward: 4, name: '' }] })
const scene = checkScene({ stage: 'plan' }, hall)

/** The lesson that stands in a page. */
const lessonIn = (page: string) => JSON.parse(page.slice('<script>'.length, -'</script>'.length)) as Lesson
const PAGE = '<script><!--lesson--></script>'

it('students do not get what is said to the speaker', () => {
  const words = { title: 'One', text: 'For all.', notes: 'Ask them first.' }
  const lesson = addView(lessonOfView(hall, scene), words, scene, { shelf: null, document: hall })
  const given = lessonIn(pageWith(PAGE, handedOut(lesson)))
  expect(JSON.stringify(given)).not.toContain('Ask them first')
  expect(given.views.map(({ title, text }) => [title, text])).toEqual([
    [hall.name, ''],
    ['One', 'For all.'],
  ])
})

it('no text of a lesson ends the script that it stands in', () => {
  const words = { title: '</script><script>alert(1)</script>', text: '<!--lesson-->', notes: '' }
  const lesson = addView(newLesson('Signs'), words, scene, { shelf: null, document: hall })
  const page = pageWith(PAGE, handedOut(lesson))
  expect(page.match(/<\/script>/g)).toHaveLength(1)
  expect(lessonIn(page).views[0]).toMatchObject({ title: words.title, text: words.text })
})

it('a lesson without views is not handed out', () => {
  expect(() => handedOut(newLesson('Empty'))).toThrow('The lesson has no views yet.')
})

it('a view that is handed out is a lesson of one view', () => {
  const lesson = lessonOfView(hall, scene)
  expect(checkLesson(JSON.parse(JSON.stringify(lesson)))).toEqual(lesson)
  expect(lesson.views).toHaveLength(1)
  expect(Object.values(lesson.environments)).toEqual([{ shelf: null, document: hall }])
})
