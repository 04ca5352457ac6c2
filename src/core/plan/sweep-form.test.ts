import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import type { Model } from '../model/model'
import { gridModel, randomModel } from '../testing/models'
import { actionValues, backupForm, optimalSweep } from './backup'
import {
  chainPolicy,
  chooseChain,
  emptyChain,
  layOutAndSweep,
  sweepBest,
  sweepChain,
  sweepForm,
} from './sweep-form'
import { sweepSequence } from './sweep-order'

const FIELD = gridModel(['.....', '.#:#.', '..:..', '.#...'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'E4', reward: 12, name: '' }],
  veer: 0.2,
  stall: 0.1,
})
/** Few next states in common: every action has a list of its own. */
const SCATTERED = randomModel(5, 40).model
const MODELS: [string, Model, 1 | 4][] = [
  ['a grid', FIELD, 4],
  ['scattered actions', SCATTERED, 1],
]

function someValues(model: Model, seed: number): Float64Array {
  return Float64Array.from({ length: model.states }, (_, s) =>
    model.ending[s] ? 0 : Math.sin(seed * 7.3 + s * 2.1) * 20,
  )
}

describe.each(MODELS)('%s', (_, model, lanes) => {
  it('takes the form that is quicker for it', () => {
    expect(sweepForm(model, 0.9, sweepSequence(model, 'forward')).lanes).toBe(lanes)
  })

  it('sweeps as the plain sweep does, at once and in place', () => {
    for (const discount of [0, 0.9, 1]) {
      const plain = backupForm(model, discount)
      const from = someValues(model, 1)
      const expected = new Float64Array(model.states)
      const change = optimalSweep(plain, from, expected)
      const form = sweepForm(model, discount, sweepSequence(model, 'forward'))
      const to = from.slice()
      expect(sweepBest(form, from, to)).toBeCloseTo(change, 12)
      to.forEach((value, s) => expect(value).toBeCloseTo(expected[s], 12))
      // In place by the book: one state after the other, each from what there is.
      const order = sweepSequence(model, 'backward')
      const book = from.slice()
      for (const s of order)
        book[s] = Math.max(...actionValues(plain, book).subarray(model.rowStart[s], model.rowStart[s + 1]))
      const inPlace = from.slice()
      sweepBest(sweepForm(model, discount, order), inPlace, inPlace)
      inPlace.forEach((value, s) => expect(value).toBeCloseTo(book[s], 11))
    }
  })

  it('follows the actions it chose, whether written down while sweeping or taken from a policy', () => {
    const form = sweepForm(model, 0.9, sweepSequence(model, 'forward'), true)
    const chain = emptyChain(form)
    const values = someValues(model, 2)
    sweepBest(form, values, values, chain.choice)
    const again = emptyChain(form)
    chooseChain(form, chainPolicy(form, chain), again)
    const [one, two] = [values.slice(), values.slice()]
    expect(layOutAndSweep(form, chain, one)).toBe(layOutAndSweep(form, again, two))
    expect([...one]).toEqual([...two])
    const three = values.slice()
    sweepChain(again, three)
    expect([...three]).toEqual([...one])
    expect(sweepChain(chain, one)).toBe(sweepChain(again, two))
    expect([...one]).toEqual([...two])
    expect([...again.choice]).toEqual([...chain.choice])
  })
})

it('counts staying put at once, without moving the fixed point', () => {
  // Try and fail with 0.75: v = 0.25 x 8 + 0.75 x (-2 + 0.5 v), so v = (2 - 1.5) / (1 - 0.375) = 0.8.
  const builder = new ModelBuilder()
  const [here, end] = [builder.state('here'), builder.state('end')]
  const row = builder.newRow(here, builder.action('try'))
  builder.outcome(row, end, 0.25, 8)
  builder.outcome(row, here, 0.75, -2)
  const model = builder.build({ starts: [{ state: here, weight: 1 }], cap: 0 })
  const form = sweepForm(model, 0.5, sweepSequence(model, 'forward'), true)
  const values = new Float64Array(2)
  sweepBest(form, values, values)
  expect(values[0]).toBeCloseTo(0.8, 15)
  expect(sweepBest(form, values, values)).toBeLessThan(1e-15)
})

it('brings any two tables closer by the discount at least, at once, in place and with staying counted at once', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 5000 }),
      fc.constantFrom(0.3, 0.9, 0.99),
      fc.constantFrom('plain', 'in place', 'eliminated'),
      (seed, discount, way) => {
        const { model } = randomModel(seed, 8)
        const form = sweepForm(model, discount, sweepSequence(model, 'forward'), way === 'eliminated')
        const tables = [someValues(model, seed), someValues(model, seed + 1)]
        const distance = () =>
          tables[0].reduce((most, value, s) => Math.max(most, Math.abs(value - tables[1][s])), 0)
        const before = distance()
        tables.forEach((table, i) => {
          const to = way === 'plain' ? table.slice() : table
          sweepBest(form, table, to)
          tables[i] = to
        })
        expect(distance()).toBeLessThanOrEqual(discount * before + 1e-12)
      },
    ),
    { numRuns: 150 },
  )
})

it('does not divide by nothing where one stays for ever', () => {
  const builder = new ModelBuilder()
  const [here, end] = [builder.state('here'), builder.state('end')]
  builder.outcome(builder.newRow(here, builder.action('wait')), here, 1, 0)
  builder.outcome(builder.newRow(here, builder.action('go')), end, 1, 3)
  const model = builder.build({ starts: [{ state: here, weight: 1 }], cap: 0 })
  const values = new Float64Array(2)
  const form = sweepForm(model, 1, sweepSequence(model, 'forward'), true)
  for (let i = 0; i < 3; i++) sweepBest(form, values, values)
  expect([...values]).toEqual([3, 0])
})
