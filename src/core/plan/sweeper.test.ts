import { describe, expect, it } from 'vitest'
import type { Model } from '../model/model'
import { gridModel, listed, randomModel, type Line } from '../testing/models'
import { sweepForm } from './sweep-form'
import { sweepSequence } from './sweep-order'
import { createSweeper, plainSweeper } from './sweeper'
import type { Sweeper } from './sweeper-kind'
import { sweepPatterns } from './wasm/sweep-patterns'
import { wasmSweeper } from './wasm/wasm-sweeper'

const FIELD = gridModel(
  Array.from({ length: 20 }, (_, row) =>
    Array.from({ length: 20 }, (_, column) => ((row * 7 + column * 5) % 9 === 4 ? '#' : '.')).join(''),
  ),
  {
    endings: [
      { at: 'T20', reward: 12, name: '' },
      { at: 'C2', reward: -3, name: '' },
    ],
    veer: 0.2,
    stall: 0.1,
    moves: 8,
    stay: true,
  },
)

/** Rooms with carpets, so that there are some patterns, each many times. */
function wideField(): Model {
  const floor = Array.from({ length: 30 }, (_, row) =>
    Array.from({ length: 30 }, (_, column) =>
      row % 6 === 3 && column % 5 ? '#' : column % 10 === 4 ? ':' : '.',
    ).join(''),
  )
  return gridModel(floor, { endings: [{ at: 'AD30', reward: 2, name: '' }], veer: 0.2 })
}

/** States in a ring; three actions lead to some of the next `width` states; the last state is an ending. */
function ring(states: number, width: number): Model {
  const lines: Line[] = []
  for (let s = 0; s < states - 1; s++)
    for (let a = 0; a < 3; a++)
      for (let k = 0; k < width; k++)
        if ((k + a) % 3) {
          const shares = Array.from({ length: width }, (_, i) => ((i + a) % 3 ? 1 + i : 0))
          const total = shares.reduce((sum, share) => sum + share, 0)
          lines.push([`s${s}`, `a${a}`, `s${(s + k) % states}`, shares[k] / total, a - k])
        }
  return listed(lines)
}

describe.each([
  ['a grid with nine actions', FIELD],
  [
    'a grid with four',
    gridModel(['.....', '.#.#.', '.....'], { endings: [{ at: 'E3', reward: 2, name: '' }], veer: 0.2 }),
  ],
  ['scattered actions', randomModel(9, 300).model],
  ['many places with few patterns', wideField()],
  ['patterns of more than five next states, three actions', ring(400, 7)],
] as [string, Model][])('WebAssembly on %s', (_, model) => {
  it.each([
    ['plain', 0.97, false],
    ['staying counted at once', 0.97, true],
    ['undiscounted', 1, true],
  ] as [string, number, boolean][])('gives the same bits as TypeScript (%s)', (_, discount, eliminate) => {
    const form = sweepForm(model, discount, sweepSequence(model, 'from-endings'), eliminate)
    const [plain, wasm] = [plainSweeper(form), wasmSweeper(form, true)!]
    expect(wasm).not.toBeNull()
    /** Some sweeps of each kind; all that came out of them. */
    const run = (sweeper: Sweeper, inside: boolean) => {
      let values: Float64Array = Float64Array.from({ length: model.states }, (_, s) =>
        model.ending[s] ? 0 : Math.cos(s) * 9,
      )
      let other: Float64Array = values.slice()
      if (inside) {
        sweeper.tables[0].set(values)
        ;[values, other] = sweeper.tables
      }
      const changes: number[] = []
      for (let i = 0; i < 4; i++) {
        changes.push(sweeper.best(values, other))
        ;[values, other] = [other, values]
      }
      for (let i = 0; i < 4; i++) {
        changes.push(sweeper.best(values, values))
        changes.push(sweeper.bestAndChoose(values))
        changes.push(sweeper.followFirst(values))
        changes.push(sweeper.follow(values), sweeper.follow(values))
      }
      return { changes, values: [...values], choice: [...sweeper.chain.choice] }
    }
    const expected = run(plain, false)
    expect(run(plain, true)).toEqual(expected)
    expect(run(wasm, false)).toEqual(expected)
    // The same in the tables of the module, where nothing is carried in and out.
    expect(run(wasm, true)).toEqual(expected)
  })
})

it('finds the patterns of a form, and none where places have little in common', () => {
  const formOf = (model: Model) => sweepForm(model, 0.97, sweepSequence(model, 'from-endings'), true)
  const field = formOf(wideField())
  const found = sweepPatterns(field)!
  expect(found.width).toBe(5)
  const patterns = found.table.length / 24
  expect(patterns).toBeGreaterThan(10)
  expect(patterns).toBeLessThan(field.order.length / 8)
  // Every place finds its own weights and rewards in the table.
  for (let place = 0; place < field.order.length; place++) {
    const at = found.pattern[place] / 8
    const [from, to] = [field.nextStart[place], field.nextStart[place + 1]]
    expect([...found.table.subarray(at, at + 4)]).toEqual([
      ...field.reward.subarray(4 * place, 4 * place + 4),
    ])
    expect([...found.table.subarray(at + 4, at + 4 + 4 * (to - from))]).toEqual([
      ...field.weight.subarray(4 * from, 4 * to),
    ])
    expect([...found.next.subarray(5 * place, 5 * place + to - from)]).toEqual([
      ...field.next.subarray(from, to),
    ])
  }
  // Staying put is counted at once, and no next state of its own.
  expect(sweepPatterns(formOf(ring(400, 7)))!.width).toBe(6)
  expect(sweepPatterns(formOf(randomModel(9, 300).model))).toBeNull()
  expect(sweepPatterns(formOf(FIELD))).toBeNull()
})

it('is taken where there is enough to do', () => {
  const floor = Array.from({ length: 40 }, () => '.'.repeat(40))
  const open = gridModel(floor, { endings: [{ at: 'A1', reward: 1, name: '' }] })
  const large = sweepForm(open, 0.9, sweepSequence(open, 'forward'))
  expect(createSweeper(large).form).not.toBe(large)
  const { model } = randomModel(1, 20)
  const small = sweepForm(model, 0.9, sweepSequence(model, 'forward'))
  expect(createSweeper(small).form).toBe(small)
})
