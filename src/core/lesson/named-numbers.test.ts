import { describe, expect, it } from 'vitest'
import { listed } from '../testing/models'
import { NAMED_NUMBERS, NAMED_PLACE, namedText, withNumbers, type ViewFacts } from './named-numbers'

const model = listed([
  ['lobby', 'wait', 'lobby', 1, 0],
  ['lobby', 'go on', 'hall', 1, 1],
  ['hall', 'go on', 'over', 1, 5],
])
const row = (state: string, action: string) => {
  const s = model.labels.indexOf(state)
  for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
    if (model.actions[model.rowAction[r]] === action) return r
  throw new Error(action)
}
const values = new Float64Array(model.states)
values[model.labels.indexOf('lobby')] = 5.5
values[model.labels.indexOf('hall')] = 5
const rowValues = new Float64Array(model.rows)
rowValues[row('lobby', 'wait')] = 4.95
rowValues[row('lobby', 'go on')] = 5.5
rowValues[row('hall', 'go on')] = 5
const policy = new Float64Array(model.rows)
policy[row('lobby', 'wait')] = 0.25
policy[row('lobby', 'go on')] = 0.75
policy[row('hall', 'go on')] = 1

const FACTS: ViewFacts = {
  model,
  discount: 0.9,
  selected: model.labels.indexOf('lobby'),
  knobs: { veer: 0.125 },
  values,
  policy,
  rowValues,
  change: 0.03125,
  sweeps: 3,
  backups: 1234,
  steps: 17,
  episodes: 2,
  recent: -1.5,
  learned: 4.25,
  optimum: 5.5,
  scores: { 'Q-learning': 12.345 },
}
const text = (name: string, facts: Partial<ViewFacts> = {}) => namedText(name, { ...FACTS, ...facts })

describe('a number by name', () => {
  it.each([
    ['value', '5.5'],
    ['value of hall', '5'],
    ['action value of wait', '4.95'],
    ['action value of go on in hall', '5'],
    ['chance of wait in lobby', '0.25'],
    ['action', 'go on'],
    ['action in hall', 'go on'],
    ['start value', '5.5'],
    ['optimal value', '5.5'],
    ['discount', '0.9'],
    ['sweeps', '3'],
    ['backups', '1\u202f234'],
    ['change', '0.031'],
    ['steps', '17'],
    ['episodes', '2'],
    ['mean return', '−1.5'],
    ['policy value', '4.25'],
    ['states', String(model.states)],
    ['knob veer', '0.125'],
    ['score of Q-learning', '12.35'],
  ])('%s is %s', (name, expected) => {
    const { text: found, problem } = text(name)
    expect(problem).toBeNull()
    expect(found).toBe(expected)
  })

  it('is told for every form that there is', () => {
    const told = new Set(NAMED_NUMBERS.map(({ form }) => form))
    expect(told.size).toBe(NAMED_NUMBERS.length)
  })

  it('is an ellipsis as long as it is not known', () => {
    expect(text('value', { values: null })).toEqual({ text: '…', problem: null })
    expect(text('value of hall', { values: new Float64Array(model.states).fill(NaN) }).text).toBe('…')
    expect(namedText('sweeps', null)).toEqual({ text: '…', problem: null })
  })

  it.each([
    ['value of attic', 'There is no state “attic”.'],
    ['action value of jump', '“jump” is not possible in lobby.'],
    ['action in over', 'Nothing is to be done in over.'],
    ['knob draught', 'There is no knob “draught”.'],
    ['score of Nobody', 'There is no contestant “Nobody”.'],
    ['height', 'No number is called “height”.'],
  ])('%s: %s', (name, problem) => {
    expect(text(name)).toEqual({ text: name, problem })
  })

  it('of the selected state says so where none is selected', () => {
    expect(text('value', { selected: null }).problem).toBe('No state is selected in this view.')
  })

  it('stands between double brackets', () => {
    const found = [...'a [[value of B2]], [not], [[ ]] [[x]'.matchAll(NAMED_PLACE)].map(([, name]) => name)
    expect(found).toEqual(['value of B2', ' '])
  })

  it('is written into a text, where it has a name that is known', () => {
    const said = 'After [[sweeps]] sweeps, not [[height]].'
    expect(withNumbers(said, FACTS)).toBe('After 3 sweeps, not [[height]].')
    expect(withNumbers(said, null)).toBe('After … sweeps, not [[height]].')
  })
})
