import { expect, it } from 'vitest'
import { gridDocument } from '../testing/models'
import { addView } from './lesson'
import { handedOut, lessonOfView } from './hand-out'
import { checkLesson, checkScene } from './read-lesson'

const hall = gridDocument(['..:'], { endings: [{ at: 'C1', reward: 4, name: '' }] })
const scene = checkScene({ stage: 'plan' }, hall)

it('students do not get what is said to the speaker', () => {
  const words = { title: 'One', text: 'For all.', notes: 'Ask them first.' }
  const lesson = addView(lessonOfView(hall, scene), words, scene, { shelf: null, document: hall })
  const given = handedOut(lesson)
  expect(JSON.stringify(given)).not.toContain('Ask them first')
  expect(given.views.map(({ title, text }) => [title, text])).toEqual([
    [hall.name, ''],
    ['One', 'For all.'],
  ])
})

it('a view that is handed out is a lesson of one view', () => {
  const lesson = lessonOfView(hall, scene)
  expect(checkLesson(JSON.parse(JSON.stringify(lesson)))).toEqual(lesson)
  expect(lesson.views).toHaveLength(1)
  expect(Object.values(lesson.environments)).toEqual([{ shelf: null, document: hall }])
})
