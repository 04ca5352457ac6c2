import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { PlanRecording } from '../recording/plan-recording'
import { gridModel, randomModel } from '../testing/models'
import { actionValues, greedyPolicy } from './backup'
import { evaluatePolicy, randomPolicy } from './evaluate'
import { PLAN_METHOD_IDS, planMethod, type PlanMethodId } from './plan-methods'
import { PLAN_DEFAULTS, type Planner, type PlanSettings } from './planner'
import { SWEEP_ORDERS, sweepSequence, type SweepOrder } from './sweep-order'

function run(id: PlanMethodId, model: Model, settings: Partial<PlanSettings> = {}): Planner {
  const planner = planMethod(id).create(model, { ...PLAN_DEFAULTS, ...settings })
  while (planner.status.outcome === 'running') planner.sweep()
  return planner
}
const FINDERS = PLAN_METHOD_IDS.filter((id) => planMethod(id).finds === 'best' && !planMethod(id).staged)
const FIELD = gridModel(['.....', '.#:#.', '..:..', '.#...'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [
    { at: 'E4', reward: 12, name: '' },
    { at: 'C1', reward: -4, name: '' },
  ],
  veer: 0.2,
})

describe.each(FINDERS)('%s', (id) => {
  it('finds the same optimum on random models, within its bound, at any discount below 1', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 3, max: 9 }),
        fc.constantFrom(0, 0.5, 0.9, 0.99),
        (seed, states, discount) => {
          const { model } = randomModel(seed, states)
          const best = run('value-iteration', model, { discount, tolerance: 1e-12 })
          const found = run(id, model, { discount })
          expect(found.status.outcome).toBe('converged')
          found.values.forEach((value, s) =>
            expect(Math.abs(value - best.values[s])).toBeLessThanOrEqual(found.bound + best.bound + 1e-9),
          )
        },
      ),
      { numRuns: 120 },
    )
  })

  it('plans the undiscounted case, where every policy it meets ends', () => {
    const found = run(id, FIELD, { discount: 1 })
    const best = run('value-iteration', FIELD, { discount: 1 })
    expect(found.status.outcome).toBe('converged')
    found.values.forEach((value, s) => expect(value).toBeCloseTo(best.values[s], 7))
  })

  it('does not care how the states are numbered', () => {
    const { model } = randomModel(7, 8)
    const turned = new ModelBuilder()
    for (let s = model.states - 1; s >= 0; s--) turned.state(model.labels[s])
    for (let s = 0; s < model.states; s++)
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
          turned.outcome(
            turned.row(turned.state(model.labels[s]), turned.action(model.actions[model.rowAction[r]])),
            turned.state(model.labels[model.outcomeState[o]]),
            model.outcomeProbability[o],
            model.outcomeReward[o],
          )
    const other = turned.build({ starts: [{ state: turned.state('s0'), weight: 1 }], cap: 0 })
    const [one, two] = [run(id, model), run(id, other)]
    model.labels.forEach((label, s) =>
      expect(two.values[other.labels.indexOf(label)]).toBeCloseTo(one.values[s], 8),
    )
  })

  it('says so where no value is finite', () => {
    const lost = gridModel(['..#.'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    })
    expect(run(id, lost, { discount: 1 }).status).toEqual({ outcome: 'never-ends', states: ['A1', 'B1'] })
    const paid = gridModel(['..'], { stepReward: 1, endings: [{ at: 'B1', reward: 0, name: '' }] })
    const { outcome } = run(id, paid, { discount: 1, sweeps: 5000 }).status
    expect(['gains-for-ever', 'improper']).toContain(outcome)
  })

  it('goes to any sweep and back to the same bits, the policy with it', () => {
    const recording = new PlanRecording(FIELD, { ...PLAN_DEFAULTS, discount: 0.9 }, id)
    const history = [recording.iteration.snapshot()]
    while (recording.forward()) history.push(recording.iteration.snapshot())
    expect(history.length).toBe(recording.reached + 1)
    for (const at of [0, 3, 2, recording.reached, 1, Math.floor(recording.reached / 2), 0]) {
      recording.goTo(at)
      expect(recording.iteration.snapshot()).toEqual(history[at])
    }
  })
})

describe('in place', () => {
  it.each(Object.keys(SWEEP_ORDERS) as SweepOrder[])('a sweep %s uses what it has made already', (order) => {
    const planner = planMethod('value-iteration-in-place').create(FIELD, { ...PLAN_DEFAULTS, order })
    planner.sweep()
    planner.sweep()
    const sequence = sweepSequence(FIELD, order)
    expect([...sequence].sort((x, y) => x - y)).toEqual(
      Array.from({ length: FIELD.states }, (_, s) => s).filter((s) => !FIELD.ending[s]),
    )
    // By the book, with two tables: what comes earlier in the order has its new value.
    for (const s of sequence) {
      const mixed = planner.values.map((value, k) =>
        sequence.indexOf(k) < sequence.indexOf(s) && !FIELD.ending[k] ? value : planner.before[k],
      )
      const backups = actionValues(planner.form, mixed).slice(FIELD.rowStart[s], FIELD.rowStart[s + 1])
      expect(planner.values[s]).toBeCloseTo(Math.max(...backups), 12)
    }
  })

  it('from the endings backwards a corridor is done in one sweep', () => {
    const corridor = gridModel(['.'.repeat(30)], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'AD1', reward: 5, name: '' }],
      stepReward: 0,
    })
    const planner = planMethod('value-iteration-in-place').create(corridor, PLAN_DEFAULTS)
    planner.sweep()
    expect(planner.values[0]).toBeCloseTo(5 * 0.95 ** 28, 12)
  })
})

describe('policy iteration', () => {
  it('improves monotonically, and evaluates each policy as an exact solve does', () => {
    const planner = planMethod('policy-iteration').create(FIELD, { ...PLAN_DEFAULTS, discount: 0.9 })
    let policy = randomPolicy(FIELD)
    let worth: Float64Array = new Float64Array(FIELD.states).fill(-Infinity)
    let improvements = 0
    while (planner.status.outcome === 'running') {
      planner.sweep()
      if (planner.phase !== 'improve') continue
      const exact = evaluatePolicy(FIELD, policy, 0.9)
      if (exact.outcome !== 'solved') throw new Error(exact.outcome)
      exact.values.forEach((value, s) => {
        expect(Math.abs(planner.before[s] - value)).toBeLessThan(2e-9)
        expect(value).toBeGreaterThanOrEqual(worth[s] - 1e-9)
      })
      worth = exact.values
      expect([...planner.policy!]).toEqual([
        ...greedyPolicy(FIELD.rowStart, actionValues(planner.form, planner.before)),
      ])
      policy = planner.policy!.slice()
      improvements++
    }
    expect(improvements).toBeGreaterThan(2)
    expect(improvements).toBeLessThan(12)
  })

  it('counts backups: a row each, in evaluation only those the policy takes', () => {
    const planner = planMethod('modified-policy-iteration').create(FIELD, {
      ...PLAN_DEFAULTS,
      evaluations: 2,
    })
    planner.sweep()
    planner.sweep()
    expect(planner.backups).toBe(2 * FIELD.rows)
    planner.sweep()
    expect([planner.backups, planner.phase]).toEqual([3 * FIELD.rows, 'optimise'])
    const taken = planner.policy!.reduce((sum, chance) => sum + (chance > 0 ? 1 : 0), 0)
    planner.sweep()
    expect(planner.backups).toBe(3 * FIELD.rows + taken)
  })
})

describe('policy evaluation', () => {
  it('agrees with a linear solve, discounted or not', () => {
    for (const discount of [0.9, 1]) {
      const { values, status, bound } = run('policy-evaluation', FIELD, { discount })
      const exact = evaluatePolicy(FIELD, randomPolicy(FIELD), discount)
      if (exact.outcome !== 'solved') throw new Error(exact.outcome)
      expect(status.outcome).toBe('converged')
      exact.values.forEach((value, s) => expect(Math.abs(value - values[s])).toBeLessThan(bound + 1e-8))
    }
  })
})
