import { describe, expect, it } from 'vitest'
import sameLookingDoors from '../../../../../demo/same-looking-doors.json' with { type: 'json' }
import { compileEnvironment } from '../../../environment/compile'
import type { EnvironmentDocument } from '../../../kinds/kinds'
import { ModelBuilder } from '../../../model/builder'
import { startValue, type Model } from '../../../model/model'
import { evaluatePolicy } from '../../../plan/evaluate'
import { policyGradient, softmaxGradient } from '../../../plan/policy-gradient'
import { solveOptimum } from '../../../plan/solve'
import type { StepRule } from '../../../settings/policy-settings'
import type { LearnSettings } from '../../../settings/settings'
import { chancyGrid, learned, newLearner, twoStates } from '../../../testing/learning'
import { gridModel, randomModel } from '../../../testing/models'
import { workingText } from '../../../explain/working'
import type { Learner } from '../../learner'
import { constant } from '../../schedule'
import { World } from '../../world'
import { createLearner } from '../learners'
import { LEARN_METHOD_IDS, LEARN_METHODS, type LearnMethodId } from '../methods'

const POLICY_METHODS = LEARN_METHOD_IDS.filter((id) => LEARN_METHODS[id].tableHolds === 'preferences')

const MODEL = twoStates()
const DISCOUNT = 0.9
/** So small that the policy stays where it is while it learns. */
const TINY = 1e-7

function exactValue(learner: Learner, discount = learner.settings.discount): number {
  const { model } = learner.world
  const result = evaluatePolicy(model, learner.world.toModelRows(learner.policy()), discount)
  expect(result.outcome).toBe('solved')
  return startValue(model, result.values)
}

/** The critic as it should be: the exact values of the policy at hand. */
function withExactCritic(learner: Learner): void {
  const snapshot = learner.snapshot()
  const critic = snapshot.arrays.critic
  if (!critic) return
  const { values } = evaluatePolicy(
    learner.world.model,
    learner.world.toModelRows(learner.policy()),
    learner.settings.discount,
  )
  critic.set(values)
  learner.restore(snapshot)
}

/** The step of one episode (or one measured direction) over the rate: mean and standard error over many runs. */
function sampledGradient(
  method: LearnMethodId,
  settings: Partial<LearnSettings>,
  runs: number,
  start: number[],
) {
  const world = new World(MODEL)
  const rows = world.tableRows
  const sum = new Float64Array(rows)
  const squares = new Float64Array(rows)
  for (let run = 0; run < runs; run++) {
    const learner = createLearner(method, world, {
      ...newLearner(method, MODEL).settings,
      discount: DISCOUNT,
      learningRate: constant(TINY),
      criticRate: constant(TINY),
      episodes: 1,
      cap: 400,
      run,
      ...settings,
    })
    learner.begin(Float64Array.from(start))
    withExactCritic(learner)
    while (learner.advance(1000) > 0);
    learner.table.forEach((preference, r) => {
      const step = (preference - start[r]) / TINY
      sum[r] += step
      squares[r] += step * step
    })
  }
  return Array.from(sum, (total, r) => {
    const mean = total / runs
    const variance = squares[r] / runs - mean * mean
    return { mean, variance, error: Math.sqrt(variance / runs) }
  })
}

function exactGradient(start: number[], temperature = 1): Float64Array {
  const world = new World(MODEL)
  const policy = new Float64Array(start.length)
  for (const s of [0, 2]) {
    const [x, y] = [Math.exp(start[s] / temperature), Math.exp(start[s + 1] / temperature)]
    policy[s] = x / (x + y)
    policy[s + 1] = y / (x + y)
  }
  const exact = policyGradient(MODEL, policy, DISCOUNT)!
  return softmaxGradient(MODEL, world.tableStart, policy, exact, temperature)
}

const START = [0.4, -0.3, -0.2, 0.5]
/** More of them by `npm run test:long`. */
const RUNS = process.env.LONG ? 40_000 : 5000

describe('the mean sampled gradient is the exact one', () => {
  const cases: [string, LearnMethodId, Partial<LearnSettings>][] = [
    ['REINFORCE', 'reinforce', {}],
    ['REINFORCE with a constant', 'reinforce', { baseline: { kind: 'constant', value: 2 } }],
    ['REINFORCE with learned values', 'reinforce', { baseline: { kind: 'learned' } }],
    ['REINFORCE at temperature 0.5', 'reinforce', { temperature: 0.5 }],
    ['actor-critic', 'actor-critic', {}],
    ['actor-critic with traces', 'actor-critic-lambda', { lambda: 0.7, traces: 'accumulating' }],
    ['advantages over 3 steps', 'generalised-advantage', { lambda: 0.6, lookahead: 3 }],
    ['advantages over whole episodes', 'generalised-advantage', { lambda: 1, lookahead: 1000 }],
    [
      'finite differences',
      'finite-differences',
      { candidates: 1, trialsEach: 1, episodes: 2, radius: 0.05, stepRule: { kind: 'plain' } },
    ],
  ]
  it.each(cases)('of %s', (_, method, settings) => {
    const gradient = exactGradient(START, settings.temperature)
    sampledGradient(method, settings, RUNS, START).forEach(({ mean, error }, r) => {
      // Differences over a radius are off by its square.
      const bias = method === 'finite-differences' ? 0.02 : 1e-4
      expect(Math.abs(mean - gradient[r]), `row ${r}`).toBeLessThan(5 * error + bias)
    })
    expect(Math.max(...gradient.map(Math.abs))).toBeGreaterThan(0.1)
  })

  it('and a baseline leaves the mean and lowers the variance', () => {
    const [plain, learnt] = [{ kind: 'none' }, { kind: 'learned' }].map((baseline) =>
      sampledGradient('reinforce', { baseline } as Partial<LearnSettings>, RUNS, START),
    )
    const variance = (of: typeof plain) => of.reduce((sum, each) => sum + each.variance, 0)
    expect(variance(learnt)).toBeLessThan(0.6 * variance(plain))
    plain.forEach(({ mean, error }, r) =>
      expect(Math.abs(mean - learnt[r].mean)).toBeLessThan(5 * (error + learnt[r].error)),
    )
  })
})

describe('the exact policy gradient', () => {
  it('climbs with every step, and comes to the optimum of what is seen in full', () => {
    for (const model of [MODEL, chancyGrid(), randomModel(6, 7).model]) {
      const learner = learned('exact-ascent', model, {
        direction: 'natural',
        learningRate: constant(0.5),
        discount: DISCOUNT,
        episodes: 400,
      })
      const { returns, count } = learner.log
      for (let k = 1; k < count; k++) expect(returns[k]).toBeGreaterThanOrEqual(returns[k - 1] - 1e-9)
      const best = solveOptimum(model, DISCOUNT)!.start
      expect(best - exactValue(learner)).toBeLessThan(1e-3)
      expect(best - exactValue(learner)).toBeGreaterThan(-1e-9)
    }
  })

  it('takes the step that its gradient says', () => {
    const learner = newLearner('exact-ascent', MODEL, { learningRate: constant(0.3), discount: DISCOUNT })
    learner.begin(Float64Array.from(START))
    learner.advance(1)
    const gradient = exactGradient(START)
    learner.table.forEach((value, r) => expect(value).toBeCloseTo(START[r] + 0.3 * gradient[r], 12))
    expect(learner.log.count).toBe(1)
  })

  it('with an entropy bonus climbs what the return and the entropy come to together', () => {
    const bonus = 0.7
    const learner = newLearner('exact-ascent', MODEL, {
      learningRate: constant(TINY),
      discount: DISCOUNT,
      entropy: bonus,
    })
    const softmax = (at: ArrayLike<number>) => {
      const policy = new Float64Array(4)
      for (const s of [0, 2]) {
        const sum = Math.exp(at[s]) + Math.exp(at[s + 1])
        policy[s] = Math.exp(at[s]) / sum
        policy[s + 1] = Math.exp(at[s + 1]) / sum
      }
      return policy
    }
    const at = (s: number, policy: Float64Array) =>
      -policy[s] * Math.log(policy[s]) - policy[s + 1] * Math.log(policy[s + 1])
    learner.begin(Float64Array.from(START))
    learner.advance(1)
    // The occupancy is held: the bonus is that of the states that are met.
    const policy = softmax(START)
    const { occupancy } = policyGradient(MODEL, policy, DISCOUNT)!
    const gradient = exactGradient(START)
    START.forEach((_, r) => {
      const s = r < 2 ? 0 : 1
      const moved = (by: number) => at(2 * s, softmax(START.map((x, k) => (k === r ? x + by : x))))
      const slope = (moved(1e-5) - moved(-1e-5)) / 2e-5
      const step = (learner.table[r] - START[r]) / TINY
      expect(step).toBeCloseTo(gradient[r] + bonus * occupancy[s] * slope, 5)
    })
  })
})

describe('where rooms look alike', () => {
  const document = sameLookingDoors as unknown as EnvironmentDocument
  const { model } = compileEnvironment(document)
  const world = new World(model)
  const { discount } = document
  /** Door 2 is one of the two green ones. */
  const GREEN = model.observation[model.labels.indexOf('door 2')]

  /** The best of the policies that open a green door with some chance, and otherwise walk on. */
  function bestOpening(): { value: number; chance: number } {
    const [on, open] = ['on', 'open'].map((name) => model.actions.indexOf(name))
    let best = { value: -Infinity, chance: NaN }
    for (let k = 0; k <= 500; k++) {
      const chance = k / 500
      const policy = Float64Array.from(world.tableAction, (action, row) => {
        const isGreen = row >= world.tableStart[GREEN] && row < world.tableStart[GREEN + 1]
        return action === on ? (isGreen ? 1 - chance : 1) : action === open && isGreen ? chance : 0
      })
      const result = evaluatePolicy(model, world.toModelRows(policy), discount)
      const value = result.outcome === 'solved' ? startValue(model, result.values) : -Infinity
      if (value > best.value) best = { value, chance }
    }
    return best
  }

  it('the best policy is stochastic, and policy search finds it', () => {
    const { value, chance } = bestOpening()
    expect(value).toBeGreaterThan(1.9)
    expect(chance).toBeGreaterThan(0.05)
    expect(chance).toBeLessThan(0.95)
    const exact = learned('exact-ascent', model, {
      discount,
      episodes: 4000,
      learningRate: constant(0.01),
      direction: 'natural',
    })
    expect(Math.abs(exactValue(exact) - value)).toBeLessThan(0.01)
    expect(Math.abs(exact.policy()[world.tableStart[GREEN] + 2] - chance)).toBeLessThan(0.02)
    const sampled = learned('reinforce', model, {
      discount,
      cap: document.cap,
      episodes: 20_000,
      learningRate: constant(0.001),
    })
    expect(exactValue(sampled)).toBeGreaterThan(value - 0.5)
    expect(exactValue(sampled)).toBeLessThanOrEqual(exactValue(exact) + 1e-6)
  })
})

describe('searches that look at returns alone', () => {
  const model = gridModel(['...', '.#.', '...'], {
    starts: [{ at: 'A3', weight: 1 }],
    endings: [
      { at: 'C1', reward: 10, name: '' },
      { at: 'B1', reward: -5, name: '' },
    ],
  })
  const best = solveOptimum(model, DISCOUNT)!.start

  it.each([
    ['hill-climbing', { trialsEach: 4, patience: 30, episodes: 12_000, radius: 2 }],
    ['cross-entropy', { trialsEach: 3, candidates: 40, episodes: 12_000, radius: 3 }],
    ['keep-better', { trialsEach: 6, episodes: 6_000, radius: 1 }],
    [
      'finite-differences',
      {
        trialsEach: 2,
        candidates: 10,
        episodes: 16_000,
        radius: 0.5,
        learningRate: constant(0.3),
        stepRule: { kind: 'adam', first: 0.9, second: 0.99 },
      },
    ],
  ] as [LearnMethodId, Partial<LearnSettings>][])(
    '%s comes near the optimum of a small grid',
    (method, settings) => {
      const values = Array.from({ length: 5 }, (_, run) =>
        exactValue(learned(method, model, { discount: DISCOUNT, cap: 40, run, ...settings })),
      )
      const middle = values.sort((x, y) => x - y)[2]
      // A policy that takes every action equally often is worth less than −5.
      expect(middle).toBeGreaterThan(best - 1.5)
      expect(values[4]).toBeLessThanOrEqual(best + 1e-9)
    },
  )

  it('pairs meet the same random numbers: with a radius of almost nothing they play the same', () => {
    for (const method of ['finite-differences', 'hill-climbing'] as const) {
      const learner = newLearner(method, chancyGrid(), {
        radius: 1e-12,
        trialsEach: 3,
        episodes: 12,
        candidates: 2,
      })
      while (learner.advance(1000) > 0);
      const { returns } = learner.log
      expect([...returns.slice(3, 6)]).toEqual([...returns.slice(0, 3)])
      expect([...returns.slice(9, 12)]).toEqual([...returns.slice(6, 9)])
      expect([...returns.slice(6, 9)]).not.toEqual([...returns.slice(0, 3)])
    }
  })
})

describe('guards', () => {
  const rules: StepRule[] = [
    { kind: 'plain' },
    { kind: 'momentum', keep: 0.9 },
    { kind: 'adam', first: 0.9, second: 0.999 },
  ]
  const wild = gridModel(['..'], { stepReward: -1e6, endings: [{ at: 'B1', reward: 1e8, name: '' }] })

  it.each(POLICY_METHODS)('%s keeps every number a number, whatever comes', (method) => {
    for (const stepRule of rules)
      for (const rest of [
        {},
        { entropy: 5 },
        { normLimit: 1 },
        { temperature: 1e-3 },
        { criticRate: constant(1) },
      ]) {
        const learner = learned(method, wild, {
          stepRule,
          learningRate: constant(100),
          episodes: 60,
          cap: 30,
          baseline: { kind: 'learned' },
          ...rest,
        })
        for (const chance of learner.policy()) expect(chance >= 0 && chance <= 1).toBe(true)
        for (const { numbers } of Object.values(learner.tables()))
          for (const number of numbers) expect(Number.isFinite(number)).toBe(true)
      }
  })

  it('a gradient is no longer than its limit', () => {
    const step = (normLimit: number) => {
      const learner = newLearner('reinforce', MODEL, { normLimit, learningRate: constant(1), episodes: 1 })
      learner.advance(1)
      if (learner.log.count === 0) learner.advance(1e6, 1)
      return Math.hypot(...learner.table)
    }
    // One episode has few steps, each no longer than the limit.
    expect(step(0.01)).toBeLessThan(0.2)
    expect(step(0)).toBeGreaterThan(0.2)
  })
})

describe('steps', () => {
  /** An ending that pays 4 whatever is done: one episode is one step. */
  function oneStep(): Model {
    const builder = new ModelBuilder()
    const [s, end] = [builder.state('s'), builder.state('end')]
    for (const name of ['left', 'right']) builder.outcome(builder.row(s, builder.action(name)), end, 1, 4)
    return builder.build({ starts: [{ state: s, weight: 1 }], cap: 10 })
  }

  it('with momentum and by Adam are what the books say', () => {
    const steps = (stepRule: StepRule, count: number) => {
      const learner = newLearner('reinforce', oneStep(), {
        stepRule,
        learningRate: constant(0.1),
        episodes: count,
      })
      while (learner.advance(100) > 0);
      return learner
    }
    // The first gradient is 4 × (1 − 1/2) = 2 for the action taken: momentum takes it as it is, Adam its sign.
    const first = steps({ kind: 'momentum', keep: 0.5 }, 1)
    expect(first.table[first.last.row]).toBeCloseTo(0.2, 12)
    const adam = steps({ kind: 'adam', first: 0.9, second: 0.999 }, 1)
    expect(adam.table[adam.last.row]).toBeCloseTo(0.1, 7)
    expect(adam.table[1 - adam.last.row]).toBeCloseTo(-0.1, 7)
    // Two steps with momentum: the second goes on with half of the first.
    const learner = newLearner('reinforce', oneStep(), {
      stepRule: { kind: 'momentum', keep: 0.5 },
      learningRate: constant(0.1),
      episodes: 2,
    })
    learner.advance(1)
    const taken = learner.last.row
    const before = learner.policy()
    learner.advance(1)
    const gradient = 4 * ((learner.last.row === taken ? 1 : 0) - before[taken])
    expect(learner.table[taken]).toBeCloseTo(0.2 + 0.1 * (0.5 * 2 + gradient), 12)
  })
})

describe('one-step actor-critic', () => {
  it('updates as worked out by hand', () => {
    // A corridor of two cells and an ending that pays 10, each step −1; from A1 the only useful move is east.
    const builder = new ModelBuilder()
    const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
    for (const name of ['on', 'too']) {
      builder.outcome(builder.row(a, builder.action(name)), b, 1, -1)
      builder.outcome(builder.row(b, builder.action(name)), end, 1, 9)
    }
    const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 10 })
    const learner = newLearner('actor-critic', model, {
      discount: 0.5,
      learningRate: constant(0.1),
      criticRate: constant(0.2),
    })
    const { values, preferences } = learner.tables()
    learner.advance(1)
    // a: error −1 + 0.5 × 0 − 0 = −1; V(a) −0.2; the action taken 0.1 × 1 × −1 × (1 − 1/2).
    expect(values.numbers[0]).toBeCloseTo(-0.2, 12)
    expect(preferences.numbers[learner.last.row]).toBeCloseTo(-0.05, 12)
    learner.advance(1)
    // b: error 9; V(b) 1.8; weight 0.5: 0.1 × 0.5 × 9 × 1/2 = 0.225.
    expect(values.numbers[1]).toBeCloseTo(1.8, 12)
    expect(preferences.numbers[learner.last.row]).toBeCloseTo(0.225, 12)
    learner.advance(1)
    // a again: error −1 + 0.5 × 1.8 + 0.2 = 0.1.
    expect(values.numbers[0]).toBeCloseTo(-0.2 + 0.2 * 0.1, 12)
    const text = workingText(learner.working(0)!, (value) => String(Math.round(value * 1e5) / 1e5))
    expect(text).toContain('× ( -0.1 − -0.2 ) × (')
    expect(text).toContain('is above the baseline')
    expect(text).toContain('reward −1 + 0.5 × 1.8 next = −0.1, compared with its −0.2 here')
  })
})
