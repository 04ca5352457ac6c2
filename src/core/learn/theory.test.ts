import { describe, expect, it } from 'vitest'
import { startValue, type Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { actionValues, backupForm } from '../plan/backup'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { PLAN_DEFAULTS } from '../plan/plan-settings'
import { ValueIteration } from '../plan/value-iteration'
import { chancyGrid, drawers, exploring, learned, roomsWalk } from '../testing/learning'
import type { LearnMethodId } from './methods/methods'
import { constant, type Schedule } from './schedule'
import type { LearnSettings } from '../settings/settings'

/**
 * Learners against exact answers. Where chance is in it, a method runs RUNS times, and the mean of each cell has to lie
 * within five standard errors of the exact number, and of what is left of the way after a finite run: an honest method
 * misses the five in one cell of 1.7 million, and seeds are fixed, so that what passes keeps passing.
 */
const RUNS = 16
const ERRORS = 5

/** Falls as 1/n in the end, as proofs of convergence ask for, but slowly enough to get somewhere first. */
const FADING: Schedule = { kind: 'visits', from: 1, slowness: 20 }
const DISCOUNT = 0.8
const BASE: Partial<LearnSettings> = {
  discount: DISCOUNT,
  learningRate: FADING,
  exploration: exploring(0.3),
  episodes: 3000,
  cap: 200,
}

/** Mean and standard error of each cell over the runs. */
function over(runs: readonly Float64Array[]): { mean: number; error: number }[] {
  return Array.from(runs[0], (_, cell) => {
    const mean = runs.reduce((sum, table) => sum + table[cell], 0) / runs.length
    const squares = runs.reduce((sum, table) => sum + (table[cell] - mean) ** 2, 0)
    return { mean, error: Math.sqrt(squares / (runs.length - 1) / runs.length) }
  })
}

function expectExact(
  method: LearnMethodId,
  model: Model,
  exact: ArrayLike<number>,
  settings: Partial<LearnSettings>,
  /** How much of the way may be left: bias that fades with the length of a run. */
  left: number,
) {
  const runs = Array.from({ length: RUNS }, (_, run) => learned(method, model, { ...BASE, ...settings, run }))
  const visited = over(runs.map(({ visits }) => visits))
  const ofStates = runs[0].table.length === model.observations
  over(runs.map(({ table }) => table)).forEach(({ mean, error }, cell) => {
    if (!ofStates && visited[cell].mean < 300) return
    expect(Math.abs(mean - exact[cell]), `cell ${cell}`).toBeLessThan(ERRORS * error + left)
  })
}

/** The best action values when a part of all actions, here and later, is random: what on-policy methods tend to. */
function bestWhileExploring(model: Model, part: number): Float64Array {
  const form = backupForm(model, DISCOUNT)
  const values = new Float64Array(model.states)
  let table = actionValues(form, values)
  for (let sweep = 0; sweep < 400; sweep++) {
    for (let s = 0; s < model.states; s++) {
      const rows = table.subarray(model.rowStart[s], model.rowStart[s + 1])
      if (!rows.length) continue
      const mean = rows.reduce((sum, value) => sum + value, 0) / rows.length
      values[s] = (1 - part) * rows.reduce((most, value) => Math.max(most, value), -Infinity) + part * mean
    }
    table = actionValues(form, values)
  }
  return table
}

function optimum(model: Model, discount = DISCOUNT): Float64Array {
  const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount, tolerance: 1e-10 })
  while (iteration.status.outcome === 'running') iteration.sweep()
  return actionValues(backupForm(model, discount), iteration.values)
}

it('the two ends that methods tend to are far enough apart to be told from each other', () => {
  const [best, exploringOn] = [optimum(chancyGrid()), bestWhileExploring(chancyGrid(), 0.3)]
  const apart = Array.from(best, (value, row) => Math.abs(value - exploringOn[row])).sort((x, y) => y - x)
  expect(apart[0]).toBeGreaterThan(1.5)
  expect(apart[10]).toBeGreaterThan(0.5)
})

describe('tends to the best action values, whatever it does meanwhile:', () => {
  it.each([
    ['q-learning', 0.15],
    ['double-q-learning', 0.25],
    ['dyna-q', 0.15],
    ['prioritised-sweeping', 0.1],
  ] as const)('%s', (method, left) => {
    const model = chancyGrid()
    expectExact(method, model, optimum(model), { planning: 5 }, left)
  })
})

describe('tends to the best that can be had while exploring:', () => {
  it.each([
    ['sarsa', 0.15],
    ['expected-sarsa', 0.15],
    ['n-step-sarsa', 0.15],
    ['sarsa-lambda', 0.15],
    ['monte-carlo-control', 0.25],
  ] as const)('%s', (method, left) => {
    const model = chancyGrid()
    expectExact(method, model, bestWhileExploring(model, 0.3), { lambda: 0.5 }, left)
  })
})

it('Watkins’s Q(λ) tends to the best action values where it explores little and late', () => {
  // No proof covers the general case; a table that is known well enough stays.
  const model = chancyGrid()
  expectExact('q-lambda', model, optimum(model), { lambda: 0.4, traces: 'replacing' }, 0.25)
})

describe('finds out what a policy is worth:', () => {
  const model = chancyGrid()
  const exact = evaluatePolicy(model, randomPolicy(model), DISCOUNT)
  const values = exact.outcome === 'solved' ? exact.values : new Float64Array()
  it.each([
    ['td-0', {}],
    ['td-lambda', { lambda: 0.6, traces: 'accumulating' }],
    ['td-lambda', { lambda: 0.9, traces: 'replacing' }],
    ['monte-carlo-prediction', { counted: 'first' }],
    ['monte-carlo-prediction', { counted: 'every' }],
  ] as const)('%s %o', (method, settings) => {
    // Monte Carlo has nothing to unlearn: the plain mean, without any allowance but that of every visits.
    const monteCarlo = method === 'monte-carlo-prediction'
    expectExact(
      method,
      model,
      values,
      { ...settings, ...(monteCarlo ? { learningRate: { kind: 'visits', from: 1, slowness: 1 } } : {}) },
      monteCarlo ? 0.01 : 0.05,
    )
  })

  it('a fair walk over five rooms ends on the right with chances in sixths', () => {
    const walk = roomsWalk(5)
    for (const method of ['td-0', 'monte-carlo-prediction'] as const)
      expectExact(
        method,
        walk,
        walk.labels.map((_, s) => (s === 0 || s === 6 ? 0 : [1, 2, 3, 4, 5].map((k) => k / 6)[s - 1])),
        { discount: 1, learningRate: { kind: 'visits', from: 1, slowness: method === 'td-0' ? 20 : 1 } },
        0.01,
      )
  })
})

describe('being cut off is not ending:', () => {
  /** A room one never gets out of, with 1 for each step. */
  function forEver(): Model {
    const builder = new ModelBuilder()
    const [room, other] = ['room', 'other room'].map((label) => builder.state(label))
    const on = builder.action('on')
    builder.outcome(builder.row(room, on), other, 1, 1)
    builder.outcome(builder.row(other, on), room, 1, 1)
    return builder.build({ starts: [{ state: room, weight: 1 }], cap: 5 })
  }
  it.each([
    'q-learning',
    'sarsa',
    'expected-sarsa',
    'double-q-learning',
    'n-step-sarsa',
    'sarsa-lambda',
    'q-lambda',
    'monte-carlo-control',
    'dyna-q',
    'prioritised-sweeping',
    'td-0',
    'td-lambda',
    'monte-carlo-prediction',
  ] as const)('%s knows that rewards would go on behind the cap', (method) => {
    const learner = learned(method, forEver(), {
      discount: 0.9,
      cap: 5,
      episodes: 3000,
      learningRate: constant(0.1),
      threshold: 1e-9,
    })
    // 1 / (1 - 0.9); with the cap taken for an end it would be 1 + 0.9 + … = 4.0951 from the start.
    for (const value of learner.table) expect(value).toBeCloseTo(10, 3)
    expect(learner.log.lengths[0]).toBe(-5)
  })
})

it('Double Q-learning lessens the maximisation bias (van Hasselt 2010; Sutton & Barto 2018, section 6.7)', () => {
  const runs = 300
  const opened = (method: LearnMethodId) =>
    Array.from({ length: runs }, (_, run) => {
      const learner = learned(method, drawers(), {
        discount: 1,
        exploration: exploring(0.1),
        learningRate: constant(0.1),
        episodes: 100,
        cap: 10,
        run,
      })
      // Row 1 is opening the cabinet, which loses 0.1 on average.
      return learner.visits[1] / 100
    })
  const [single, double] = (['q-learning', 'double-q-learning'] as const).map(opened)
  const mean = (list: number[]) => list.reduce((sum, x) => sum + x, 0) / list.length
  const variance = (list: number[]) => mean(list.map((x) => (x - mean(list)) ** 2))
  const error = Math.sqrt((variance(single) + variance(double)) / runs)
  expect(mean(single) - mean(double)).toBeGreaterThan(5 * error)
  // Nobody who knows better opens it more often than by exploring: 5 in 100.
  expect(mean(single)).toBeGreaterThan(0.1)
})

it('on-policy learns what is worth most while exploring, off-policy what is worth most after it', () => {
  // A narrow way along a drop: the short way is best for whoever never slips.
  const builder = new ModelBuilder()
  const [start, edge, round, second, home, down] = ['start', 'edge', 'round', 'second', 'home', 'down'].map(
    (label) => builder.state(label),
  )
  const along = builder.action('along')
  const aside = builder.action('aside')
  builder.outcome(builder.row(start, along), edge, 1, -1)
  builder.outcome(builder.row(start, aside), round, 1, -1)
  builder.outcome(builder.row(edge, along), home, 1, 10)
  builder.outcome(builder.row(edge, aside), down, 1, -50)
  for (const state of [round, second]) {
    const next = state === round ? second : home
    builder.outcome(builder.row(state, along), next, 1, state === round ? -1 : 10)
    builder.outcome(builder.row(state, aside), next, 1, state === round ? -1 : 10)
  }
  const model = builder.build({ starts: [{ state: start, weight: 1 }], cap: 20 })
  const run = (method: LearnMethodId) =>
    learned(method, model, {
      discount: 1,
      exploration: exploring(0.3),
      learningRate: FADING,
      episodes: 8000,
      cap: 20,
    })
  const worth = (method: LearnMethodId) => {
    const learner = run(method)
    const of = (policy: Float64Array) => {
      const result = evaluatePolicy(model, learner.world.toModelRows(policy), 1)
      if (result.outcome !== 'solved') throw new Error(result.outcome)
      return startValue(model, result.values)
    }
    return { greedy: of(learner.policy()), acting: of(learner.behaviour()) }
  }
  const [q, sarsa] = [worth('q-learning'), worth('sarsa')]
  // By hand: along the edge 9, around 8 for the greedy ones; acting, 0.15 of the steps on the edge go down.
  expect(q.greedy).toBe(9)
  expect(sarsa.greedy).toBe(8)
  expect(q.acting).toBeCloseTo(0.85 * (-1 + 0.85 * 10 - 0.15 * 50) + 0.15 * 8, 9)
  expect(sarsa.acting).toBeCloseTo(0.15 * (-1 + 0.85 * 10 - 0.15 * 50) + 0.85 * 8, 9)
  expect(sarsa.acting).toBeGreaterThan(q.acting + 3)
})
