import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { newBandit } from '../kinds/bandit/blank'
import { workingText } from '../explain/working'
import { formatNumber } from '../formats/number'
import { gridModel } from '../testing/models'
import type { Model } from '../model/model'
import { backupForm } from './backup'
import type { Planner } from './planner'
import { sweepSequence } from './sweep-order'
import { backupWorking } from './working'

/** A planner that stands where a test wants it. */
function step(model: Model, discount: number, sweeps: number, before: number[], part: Partial<Planner> = {}) {
  return {
    model,
    form: backupForm(model, discount),
    sweeps,
    phase: 'optimise',
    before: Float64Array.from(before),
    values: Float64Array.from(before),
    policy: null,
    policyBefore: null,
    table: null,
    logged: null,
    inPlace: false,
    status: { outcome: 'running' },
    eliminates: false,
    sequence: sweepSequence(model, 'forward'),
    ...part,
  } as Planner
}

it('writes out a backup as one would on the board', () => {
  const model = gridModel(['..', '..'], { endings: [{ at: 'B2', reward: 10, name: '' }], veer: 0.2 })
  const working = backupWorking(step(model, 0.5, 3, [4, 8, 2, 0]), model.labels.indexOf('A2'))
  // East: 0.8 x 9 + 0.1 x (-1 + 0.5 x 4) + 0.1 x (-1 + 0.5 x 2) = 7.2 + 0.1 + 0 = 7.3
  expect(workingText(working, formatNumber).split('\n')).toEqual([
    'A2, sweep 3',
    'V(s) ← max over actions of Σ probability × ( reward + discount × V(next) )',
    'north: 0.8 × ( −1 + 0.5 × 4 ) + 0.1 × ( −1 + 0.5 × 2 ) + 0.1 × ( 9 + 0.5 × 0 ) = 1.7',
    'east: 0.8 × ( 9 + 0.5 × 0 ) + 0.1 × ( −1 + 0.5 × 4 ) + 0.1 × ( −1 + 0.5 × 2 ) = 7.3  *',
    'south: 0.9 × ( −1 + 0.5 × 2 ) + 0.1 × ( 9 + 0.5 × 0 ) = 0.9',
    'west: 0.9 × ( −1 + 0.5 × 2 ) + 0.1 × ( −1 + 0.5 × 4 ) = 0.1',
  ])
  expect(backupWorking(step(model, 0.5, 3, [0, 0, 0, 0]), 3).note).toMatch(/Episodes end here/)
  expect(backupWorking(step(model, 0.5, 0, [0, 0, 0, 0]), 0).note).toMatch(/starts at 0/)
})

describe('other sweeps', () => {
  const model = gridModel(['...'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'C1', reward: 10, name: '' }],
  })

  it('under a policy are weighted by it, and add up to the new value', () => {
    // B1: east ends with 9 and is taken with 0.75, west leads to A1: -1 + 0.5 x 4 = 1.
    const policy = new Float64Array(model.rows)
    policy[model.rowStart[1] + 1] = 0.75
    policy[model.rowStart[1] + 3] = 0.25
    const values = Float64Array.of(0, 7, 0)
    const working = backupWorking(step(model, 0.5, 2, [4, 0, 0], { phase: 'evaluate', policy, values }), 1)
    const lines = workingText(working, formatNumber).split('\n')
    expect(lines[1]).toBe('V(s) ← Σ over actions of policy × Σ probability × ( reward + discount × V(next) )')
    expect(lines.slice(3)).toEqual([
      'east, taken with 0.75: 1 × ( 9 + 0.5 × 0 ) = 9  *',
      'south, taken with 0: 1 × ( −1 + 0.5 × 0 ) = −1',
      'west, taken with 0.25: 1 × ( −1 + 0.5 × 4 ) = 1  *',
      'together: 0.75 × 9 + 0.25 × 1 = 7  *',
    ])
  })

  it('in place use the new values of what came earlier in the order', () => {
    const values = Float64Array.of(3.5, 9, 0)
    const sequence = Int32Array.of(1, 0)
    const working = backupWorking(step(model, 0.5, 1, [0, 0, 0], { values, sequence, inPlace: true }), 0)
    expect(workingText(working, formatNumber)).toContain('east: 1 × ( −1 + 0.5 × 9 ) = 3.5  *')
    expect(working.note).toMatch(/in place/)
  })

  it('of improvement say that the values stay', () => {
    const working = backupWorking(step(model, 0.5, 4, [1, 9, 0], { phase: 'improve' }), 0)
    expect(workingText(working, formatNumber)).toMatch(
      /policy\(s\) ← .*\n[^]*east: .*\*\n[^]*The values stay/,
    )
  })
})

it('takes outcomes together that differ in their reward only', () => {
  const bandit = newBandit('b')
  const { model } = compileEnvironment({
    ...bandit,
    bandit: {
      ...bandit.bandit,
      arms: [
        { name: 'owl', pays: [{ type: 'bernoulli', chance: 0.25, reward: 8 }] },
        { name: 'hand', pays: [{ type: 'gaussian', mean: -1, deviation: 2 }] },
      ],
    },
  })
  const working = backupWorking(step(model, 0.5, 1, [0, 0]), 0)
  expect(workingText(working, formatNumber).split('\n').slice(2)).toEqual([
    'owl: 1 × ( 2 + 0.5 × 0 ) = 2  *',
    'hand: 1 × ( −1 + 0.5 × 0 ) = −1',
  ])
})
