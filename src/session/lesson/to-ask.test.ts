import { expect, it } from 'vitest'
import { gridModel } from '../../core/testing/models'
import { answerText, questionAboutNumber, questionsAbout } from './to-ask'

const model = gridModel(['...', '...'], { endings: [{ at: 'C1', reward: 10, name: '' }] })
const state = (name: string) => model.labels.indexOf(name)
/** [rows] of a function of a state and an action. */
const rows = (of: (state: string, action: string) => number) => {
  const all = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      all[r] = of(model.labels[s], model.actions[model.rowAction[r]])
  return all
}
const values = Float64Array.from(model.labels, (_, s) => 1.5 * s)
const NOTHING = { model, values: null, policy: null, rowValues: null }

it('of a state its value is asked, and where its needle points', () => {
  const policy = rows((_, action) => (action === 'east' ? 1 : 0))
  const rowValues = rows((at, action) => (at === 'B2' && action === 'east' ? 8.25 : 1))
  const [value, needle] = questionsAbout('B2', { model, values, policy, rowValues })
  expect(value.question).toEqual({ kind: 'number', text: 'What is the value of B2?' })
  expect(value.truth!.value).toBe(1.5 * state('B2'))
  expect(value.truth!.working).toBe('north 1, east 8.25, south 1, west 1')
  expect(needle.question).toMatchObject({ kind: 'needle', choices: ['north', 'east', 'south', 'west'] })
  expect(answerText(needle)).toBe('east')
})

it('its working stands beside it where it is shown', () => {
  const [value] = questionsAbout('A1', { ...NOTHING, values }, 'V = 1 + 2')
  expect(value.truth!.working).toBe('V = 1 + 2')
  // One that is too long for a class is left out.
  const [long] = questionsAbout('A1', { ...NOTHING, values }, 'x'.repeat(2001))
  expect(long.truth!.working).toBe('')
})

it('a policy that does not decide has no one answer', () => {
  const [needle] = questionsAbout('A1', { ...NOTHING, policy: rows(() => 0.25) })
  expect(needle.truth).toBeNull()
  expect(answerText(needle)).toBe('')
})

it('nothing is asked of what is not known: no table, no actions, no such state', () => {
  expect(questionsAbout('A1', NOTHING)).toEqual([])
  expect(questionsAbout('C1', { ...NOTHING, policy: rows(() => 1) })).toEqual([])
  expect(questionsAbout('Z9', { ...NOTHING, values })).toEqual([])
})

it('of a number in a table it is asked by its heads', () => {
  const asked = questionAboutNumber('A1', 'Value', '−12.5')
  expect(asked.question.text).toBe('Which number is in row A1, column Value?')
  expect(asked.truth).toEqual({ value: -12.5, working: '' })
  expect(answerText(asked)).toBe('-12.5')
  expect(questionAboutNumber('A1', null, 'no number').truth).toBeNull()
})
