import { createPlanner } from './planners'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { startValue, type Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { PlanRecording } from '../recording/plan-recording'
import { gridModel, randomModel } from '../testing/models'
import { actionValues, greedyPolicy } from './backup'
import { evaluatePolicy, firstPolicy, randomPolicy } from './evaluate'
import { defaultPlanMethod, PLAN_METHOD_IDS, planMethod, type PlanMethodId } from './plan-methods'
import { PLAN_DEFAULTS } from './plan-settings'
import type { Planner } from './planner'
import type { PlanSettings } from './plan-settings'
import { SWEEP_ORDERS, sweepSequence, type SweepOrder } from './sweep-order'
import { backupWorking } from './working'

function run(id: PlanMethodId, model: Model, settings: Partial<PlanSettings> = {}): Planner {
  const planner = createPlanner(id, model, { ...PLAN_DEFAULTS, ...settings })
  while (planner.status.outcome === 'running') planner.sweep()
  return planner
}
const FINDERS = PLAN_METHOD_IDS.filter((id) => planMethod(id).purpose === 'control' && !planMethod(id).staged)
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
    const planner = createPlanner('value-iteration-in-place', FIELD, { ...PLAN_DEFAULTS, order })
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
    const planner = createPlanner('value-iteration-in-place', corridor, PLAN_DEFAULTS)
    planner.sweep()
    expect(planner.values[0]).toBeCloseTo(5 * 0.95 ** 28, 12)
  })
})

describe('policy iteration', () => {
  it('improves monotonically, and evaluates each policy as an exact solve does', () => {
    const planner = createPlanner('policy-iteration', FIELD, { ...PLAN_DEFAULTS, discount: 0.9 })
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
    const planner = createPlanner('modified-policy-iteration', FIELD, {
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

const JUDGES = PLAN_METHOD_IDS.filter((id) => planMethod(id).purpose === 'prediction')

describe.each(JUDGES)('%s', (id) => {
  it('agrees with a linear solve of any policy, discounted or not', () => {
    const drawn = firstPolicy(FIELD)
    for (let s = 0; s < FIELD.states; s++)
      if (!FIELD.ending[s]) drawn.fill(0.25, FIELD.rowStart[s], FIELD.rowStart[s + 1])
    const [one, two] = [FIELD.rowStart[0], FIELD.rowStart[3]]
    drawn.set([0, 1, 0, 0], one)
    drawn.set([0.5, 0, 0.5, 0], two)
    for (const policy of [null, drawn])
      for (const discount of [0, 0.9, 0.9999, 1]) {
        const { values, status, bound } = run(id, FIELD, { discount, policy })
        const exact = evaluatePolicy(FIELD, policy ?? randomPolicy(FIELD), discount)
        if (exact.outcome !== 'solved') throw new Error(exact.outcome)
        expect(status.outcome).toBe('converged')
        exact.values.forEach((value, s) => expect(Math.abs(value - values[s])).toBeLessThan(bound + 1e-8))
      }
  })

  it('names the states that a policy never leaves, undiscounted', () => {
    // East into the wall for ever in A1; the others find the ending.
    const model = gridModel(['.#..', '....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    })
    const policy = randomPolicy(model)
    policy.set([0, 1, 0, 0], model.rowStart[model.labels.indexOf('A1')])
    const { status } = run(id, model, { discount: 1, policy })
    expect(status).toEqual({ outcome: 'improper', states: ['A1'] })
  })

  it('gives values where they are finite, when an episode never comes to where they are not', () => {
    // East into the wall for ever in A1, which nobody comes to from the row below.
    const model = gridModel(['.#..', '....'], {
      starts: [{ at: 'B2', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    })
    const policy = new Float64Array(model.rows)
    model.labels.forEach((label, s) => {
      const wanted = { A1: 'east', A2: 'north', D2: 'north' }[label] ?? 'east'
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (model.actions[model.rowAction[r]] === wanted) policy[r] = 1
    })
    const planner = run(id, model, { discount: 1, policy })
    expect(planner.status.outcome).toBe('converged')
    const at = (label: string) => planner.values[model.labels.indexOf(label)]
    // Two steps east, one north, which pays 1: each costs 1.
    expect([at('B2'), at('C2'), at('D2')]).toEqual([-2, -1, 0])
    expect([at('A1'), at('A2')]).toEqual([NaN, NaN])
    expect(startValue(model, planner.values)).toBe(-2)
    expect(backupWorking(planner, model.labels.indexOf('A2')).note).toContain('no finite value')
    // Going back and on again finds the same, the states without a value included.
    const recording = new PlanRecording(model, { ...PLAN_DEFAULTS, discount: 1, policy }, id)
    while (recording.forward());
    recording.goTo(0)
    while (recording.forward());
    expect([...recording.iteration.values]).toEqual([...planner.values])
  })

  it.each(Object.keys(SWEEP_ORDERS) as SweepOrder[])('gives the same whatever the order (%s)', (order) => {
    const { values } = run(id, FIELD, { discount: 0.9, order })
    const exact = evaluatePolicy(FIELD, randomPolicy(FIELD), 0.9)
    if (exact.outcome !== 'solved') throw new Error(exact.outcome)
    exact.values.forEach((value, s) => expect(values[s]).toBeCloseTo(value, 7))
  })
})

describe('policy iteration by linear solves', () => {
  it('meets the same policies as by sweeps, in two steps each, from any policy', () => {
    for (const policy of [null, firstPolicy(FIELD)]) {
      const solved = run('policy-iteration', FIELD, { discount: 0.9, evaluation: 'solve', policy })
      const swept = run('policy-iteration', FIELD, { discount: 0.9, policy })
      expect(solved.status.outcome).toBe('converged')
      expect([...solved.policy!]).toEqual([...swept.policy!])
      expect(solved.sweeps % 2).toBe(0)
      expect(solved.sweeps).toBeLessThan(20)
      solved.values.forEach((value, s) => expect(value).toBeCloseTo(swept.values[s], 7))
    }
  })
})

describe('hard models', () => {
  /** A chain where waiting pays a little, states nobody reaches, ties, and rows that mostly stay put. */
  function odd(): Model {
    const builder = new ModelBuilder()
    const states = Array.from({ length: 6 }, (_, i) => builder.state(`s${i}`))
    const put = (
      from: number,
      action: string,
      ...outcomes: [to: number, chance: number, reward: number][]
    ) => {
      const row = builder.row(states[from], builder.action(action))
      for (const [to, chance, reward] of outcomes) builder.outcome(row, states[to], chance, reward)
    }
    put(0, 'on', [1, 0.01, 5], [0, 0.99, -1])
    put(0, 'wait', [0, 1, -0.5])
    put(1, 'on', [2, 1, 0])
    put(2, 'left', [5, 1, 3])
    put(2, 'right', [5, 0.5, 2], [5, 0.5, 4])
    put(2, 'back', [0, 1, 3])
    put(3, 'on', [4, 1, -2])
    put(4, 'on', [3, 0.5, 0], [5, 0.5, 0])
    return builder.build({ starts: [{ state: states[0], weight: 1 }], cap: 0 })
  }

  it.each(FINDERS)(
    '%s solves them at discounts 0, 0.9999 and 1 as a linear solve of its policy does',
    (id) => {
      const model = odd()
      for (const discount of [0, 0.5, 0.9999, 1]) {
        const found = run(id, model, { discount, evaluation: 'solve' })
        expect(found.status.outcome).toBe('converged')
        const policy = greedyPolicy(model.rowStart, actionValues(found.form, found.values))
        const exact = evaluatePolicy(model, policy, discount)
        if (exact.outcome !== 'solved') throw new Error(exact.outcome)
        exact.values.forEach((value, s) => expect(found.values[s]).toBeCloseTo(value, 6))
        // No action is better than what the policy is worth: it is the best there is.
        actionValues(found.form, exact.values).forEach((value, r) => {
          const s = model.rowStart.findLastIndex((start) => start <= r)
          expect(value).toBeLessThanOrEqual(exact.values[s] + 1e-6)
        })
        // Left and right of s2 are a tie, and stay one.
        const s2 = model.rowStart[2]
        expect(policy[s2]).toBe(policy[s2 + 1])
      }
    },
  )
})

describe('the quickest method', () => {
  it('rises from below on every model, and makes far fewer backups than value iteration', () => {
    for (const seed of [3, 4, 5]) {
      const { model } = randomModel(seed, 60)
      const planner = createPlanner('modified-policy-iteration-in-place', model, {
        ...PLAN_DEFAULTS,
        discount: 0.99,
      })
      while (planner.status.outcome === 'running') {
        planner.sweep()
        planner.values.forEach((value, s) => expect(value).toBeGreaterThanOrEqual(planner.before[s] - 1e-9))
      }
      const plain = run('value-iteration', model, { discount: 0.99 })
      expect(planner.backups * 3).toBeLessThan(plain.backups)
    }
  })

  it('is taken by itself where there are many rows', () => {
    expect(defaultPlanMethod(FIELD)).toBe('value-iteration')
    expect(defaultPlanMethod({ rows: 100_000 })).toBe('modified-policy-iteration-in-place')
  })

  it('comes to the values of a linear solve on a grid of 2,500 cells', () => {
    const floor = Array.from({ length: 50 }, (_, row) =>
      Array.from({ length: 50 }, (_, column) => ((row * 7 + column * 3) % 11 === 0 ? '#' : '.')).join(''),
    )
    const model = gridModel(floor, {
      endings: [
        { at: 'AX50', reward: 40, name: '' },
        { at: 'B3', reward: -5, name: '' },
      ],
      veer: 0.2,
      stall: 0.2,
    })
    const { values, form } = run('modified-policy-iteration-in-place', model, { discount: 0.99 })
    const policy = greedyPolicy(model.rowStart, actionValues(form, values))
    const exact = evaluatePolicy(model, policy, 0.99)
    if (exact.outcome !== 'solved') throw new Error(exact.outcome)
    exact.values.forEach((value, s) => expect(Math.abs(value - values[s])).toBeLessThan(1e-8))
  })
})

it.each(FINDERS)('%s ends within the tolerance where actions are a tie only nearly', (id) => {
  // For ever 1 a step: 1 / (1 - 0.99) = 100. Taking both actions equally often would be 2.5e-6 short of it.
  const builder = new ModelBuilder()
  const [here, end] = [builder.state('here'), builder.state('end')]
  builder.outcome(builder.newRow(here, builder.action('stay')), here, 1, 1)
  builder.outcome(builder.newRow(here, builder.action('linger')), here, 1, 1 - 5e-8)
  builder.outcome(builder.newRow(here, builder.action('leave')), end, 1, 0)
  const model = builder.build({ starts: [{ state: here, weight: 1 }], cap: 0 })
  const found = run(id, model, { discount: 0.99, sweeps: 20_000 })
  expect(found.status.outcome).toBe('converged')
  expect(found.bound).toBeLessThanOrEqual(1e-9)
  expect(Math.abs(found.values[0] - 100)).toBeLessThan(2e-9)
})
