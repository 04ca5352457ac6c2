import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { Model } from '../model/model'
import { gridModel, randomModel } from '../testing/models'
import { sweepForm } from './sweep-form'
import { sweepSequence } from './sweep-order'
import { createSweeper, plainSweeper } from './sweeper'
import type { Sweeper } from './sweeper-kind'
import { SWEEPS_SOURCE } from './wasm/sweeps-code'
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

describe.each([
  ['a grid with nine actions', FIELD],
  [
    'a grid with four',
    gridModel(['.....', '.#.#.', '.....'], { endings: [{ at: 'E3', reward: 2, name: '' }], veer: 0.2 }),
  ],
  ['scattered actions', randomModel(9, 300).model],
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

it('is taken where there is enough to do', () => {
  const floor = Array.from({ length: 40 }, () => '.'.repeat(40))
  const open = gridModel(floor, { endings: [{ at: 'A1', reward: 1, name: '' }] })
  const large = sweepForm(open, 0.9, sweepSequence(open, 'forward'))
  expect(createSweeper(large).form).not.toBe(large)
  const { model } = randomModel(1, 20)
  const small = sweepForm(model, 0.9, sweepSequence(model, 'forward'))
  expect(createSweeper(small).form).toBe(small)
})

it('was built from the source that stands beside it', () => {
  const source = readFileSync('src/core/plan/wasm/sweeps.as')
  expect(createHash('sha256').update(source).digest('hex').slice(0, 16)).toBe(SWEEPS_SOURCE)
})
