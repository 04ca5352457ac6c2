import { describe, expect, it } from 'vitest'
import type { Arm } from '../kinds/bandit/document'
import type { PayOff } from '../kinds/bandit/pay-off'
import type { ExplorationWay } from '../learn/explore/explorations'
import type { LearnMethodId } from '../learn/methods/methods'
import { constant, type Schedule } from '../learn/schedule'
import { banditDocument } from '../testing/bandits'
import { LEARN_DEFAULTS, type LearnSettings } from '../settings/settings'
import { PlainPlayer } from './plain-player'
import { createPullPlayer } from './pull-players'
import { addPullSums, emptyPullSums, lastPulls, meanBand, PULL_MEASURE_IDS, type PullSums } from './pull-sums'
import type { BanditDocument, PullPlayer, PullTask } from './pull-task'
import { fastPlayer } from './wasm/fast-pulls'

const MEAN: Schedule = { kind: 'visits', from: 1, slowness: 1 }

const arm = (name: string, ...pays: PayOff[]): Arm => ({ name, pays })
const normal = (mean: number, deviation = 1): PayOff => ({ type: 'gaussian', mean, deviation })
const coin = (chance: number, reward = 1): PayOff => ({ type: 'bernoulli', chance, reward })

const DOCUMENTS: Record<string, BanditDocument> = {
  'normal arms': banditDocument({
    arms: [arm('a', normal(0)), arm('b', normal(0.5)), arm('c', normal(0.5, 2))],
  }),
  'drawn anew': banditDocument({ anew: 1, arms: ['a', 'b', 'c', 'd'].map((name) => arm(name, normal(0))) }),
  'coins drawn anew, of which one always pays': banditDocument({
    anew: 0.3,
    arms: [arm('a', coin(0)), arm('b', coin(1)), arm('c', coin(0.4, 2))],
  }),
  'contexts, many pulls, all kinds of pay-offs': banditDocument({
    pulls: 7,
    contexts: [
      { name: 'x', weight: 1 },
      { name: 'y', weight: 2.5 },
      { name: 'z', weight: 3 },
    ],
    arms: [
      arm('a', coin(0.3), normal(0.2, 0), { type: 'uniform', low: -1, high: 2 }),
      arm('b', coin(0.6)),
      arm('c', {
        type: 'categorical',
        outcomes: [
          { reward: -1, weight: 2 },
          { reward: 0.5, weight: 1 },
          { reward: 3, weight: 1 },
        ],
      }),
    ],
  }),
  'contexts drawn anew': banditDocument({
    anew: 0.5,
    pulls: 4,
    contexts: [
      { name: 'x', weight: 1 },
      { name: 'y', weight: 1 },
    ],
    arms: [arm('a', normal(0), normal(1)), arm('b', { type: 'uniform', low: 0, high: 1 })],
  }),
}

const by = (
  way: ExplorationWay,
  level: number | Schedule,
  rest: Partial<LearnSettings> = {},
): [LearnMethodId, Partial<LearnSettings>] => [
  'bandit-values',
  {
    exploration: { way, level: typeof level === 'number' ? constant(level) : level },
    learningRate: MEAN,
    ...rest,
  },
]
const fall = (per: 'episode' | 'step'): Schedule => ({ kind: 'linear', from: 1, to: 0.02, over: 60, per })

const AGENTS: Record<string, [LearnMethodId, Partial<LearnSettings>]> = {
  'ε-greedy': by('epsilon-greedy', 0.1),
  'ε by episode, first of ties': by('epsilon-greedy', fall('episode'), { ties: 'first' }),
  'ε by pull, rate that drops': by('epsilon-greedy', fall('step'), {
    learningRate: { kind: 'drop', from: 0.4, to: 0.1 },
  }),
  optimistic: by('epsilon-greedy', 0, {
    learningRate: constant(0.1),
    start: { kind: 'constant', value: 5 },
  }),
  'random first values, rate by episode': by('epsilon-greedy', 0.05, {
    learningRate: { kind: 'exponential', from: 0.9, to: 0.1, over: 40, per: 'episode' },
    start: { kind: 'random', spread: 2 },
  }),
  softmax: by('softmax', 0.3),
  ucb1: by('ucb1', 1),
  'ucb1, first of ties': by('ucb1', 0.5, { ties: 'first' }),
  'ucb1-tuned': by('ucb1-tuned', 1),
  'count bonus': by('count-bonus', 0.7),
  'explore, then commit': by('explore-then-commit', 6),
  'posterior, normal': by('posterior-gaussian', 1),
  'posterior, Bernoulli': by('posterior-bernoulli', 1),
  'posterior, small prior': by('posterior-bernoulli', 0.2),
  gradient: ['gradient-bandit', { learningRate: constant(0.2), baseline: { kind: 'mean' } }],
  'gradient without baseline': ['gradient-bandit', { learningRate: MEAN, baseline: { kind: 'none' } }],
  'gradient, warm, with a constant': [
    'gradient-bandit',
    { learningRate: constant(0.3), baseline: { kind: 'constant', value: 0.4 }, temperature: 0.5 },
  ],
}

function taskOf(
  document: BanditDocument,
  [method, settings]: [LearnMethodId, Partial<LearnSettings>],
  pulls = 150,
): PullTask {
  return {
    document,
    method,
    settings: { ...LEARN_DEFAULTS, discount: 1, cap: 1000, seed: 3, ...settings },
    pulls,
  }
}

function played(player: PullPlayer, runs: readonly number[]): PullSums {
  for (const run of runs) player.play(run)
  return player.take()
}

function plain(sums: PullSums) {
  const numbers = ({ sums, squares }: { sums: Float64Array; squares: Float64Array }) => [
    [...sums],
    [...squares],
  ]
  return {
    runs: sums.runs,
    diverged: sums.diverged,
    score: numbers(sums.score),
    ...Object.fromEntries(PULL_MEASURE_IDS.map((id) => [id, numbers(sums.measures[id])])),
  }
}

describe.each(Object.keys(DOCUMENTS))('on %s', (name) => {
  it.each(Object.keys(AGENTS))('the kernel gives the bits of the learner: %s', (agent) => {
    const task = taskOf(DOCUMENTS[name], AGENTS[agent])
    const fast = fastPlayer(task)
    expect(fast).not.toBeNull()
    expect(plain(played(fast!, [0, 1, 2, 7]))).toEqual(plain(played(new PlainPlayer(task), [0, 1, 2, 7])))
    // Nothing is left of earlier runs.
    expect(plain(played(fast!, [2]))).toEqual(plain(played(new PlainPlayer(task), [2])))
  })
})

describe('the kernel', () => {
  it('cuts episodes off where the step limit does', () => {
    const task = taskOf(DOCUMENTS['contexts drawn anew'], [
      'bandit-values',
      { cap: 3, exploration: { way: 'epsilon-greedy', level: fall('episode') } },
    ])
    expect(plain(played(fastPlayer(task)!, [0, 1]))).toEqual(plain(played(new PlainPlayer(task), [0, 1])))
  })

  it('sums up several pulls in a point where there are many, the last ones too', () => {
    const task = taskOf(DOCUMENTS['drawn anew'], AGENTS['ε-greedy'], 1234)
    expect(lastPulls(1234).length).toBe(412)
    expect(lastPulls(1234).at(-1)).toBe(1234)
    expect(plain(played(fastPlayer(task)!, [0, 5]))).toEqual(plain(played(new PlainPlayer(task), [0, 5])))
  })

  it('counts runs that diverge, and leaves them out', () => {
    const task = taskOf(DOCUMENTS['normal arms'], [
      'bandit-values',
      { learningRate: constant(2.9), exploration: { way: 'epsilon-greedy', level: constant(0.5) } },
    ])
    const sums = played(fastPlayer(task)!, [0, 1, 2])
    expect(sums.diverged).toBe(3)
    expect(plain(sums)).toEqual(plain(played(new PlainPlayer(task), [0, 1, 2])))
    expect(Math.max(...sums.measures.reward.sums)).toBe(0)
    expect([...meanBand(sums, sums.score).mean]).toEqual([NaN])
  })

  it('leaves to the learners what it does not know', () => {
    const normals = DOCUMENTS['normal arms']
    const cases: [BanditDocument, [LearnMethodId, Partial<LearnSettings>]][] = [
      [normals, ['q-learning', {}]],
      [normals, ['gradient-bandit', { stepRule: { kind: 'momentum', keep: 0.9 } }]],
      [normals, ['gradient-bandit', { baseline: { kind: 'learned' } }]],
      [banditDocument({ ...normals.bandit, pulls: 5, drift: { type: 'switch', every: 2 } }), AGENTS.ucb1],
    ]
    for (const [on, agent] of cases) {
      expect(fastPlayer(taskOf(on, agent))).toBeNull()
      const sums = played(createPullPlayer(taskOf(on, agent)), [0, 1])
      expect(sums.runs).toBe(2)
      expect(Number.isFinite(sums.score.sums[0])).toBe(true)
    }
  })
})

describe('what is measured', () => {
  it('is worked out by hand for arms that always pay the same', () => {
    // Each arm once, in their order, then the better one for good: 1, 3, 3, 3, 3.
    const task = taskOf(
      banditDocument({ arms: [arm('poor', normal(1, 0)), arm('rich', normal(3, 0))] }),
      by('explore-then-commit', 1),
      5,
    )
    for (const player of [new PlainPlayer(task), fastPlayer(task)!]) {
      const sums = played(player, [0, 1])
      expect([...meanBand(sums, sums.measures.reward).mean]).toEqual([1, 3, 3, 3, 3])
      expect([...sums.measures.best.sums]).toEqual([0, 2, 2, 2, 2])
      expect([...meanBand(sums, sums.measures.regret).mean]).toEqual([2, 2, 2, 2, 2])
      expect(meanBand(sums, sums.score).mean[0]).toBeCloseTo(13 / 5, 12)
      expect(meanBand(sums, sums.score).error[0]).toBe(0)
    }
  })

  it('drifting arms: the best one is that of the pull', () => {
    // The good arm changes place every two pulls; an agent that stays with the first one is right half the time.
    const task = taskOf(
      banditDocument({
        pulls: 4,
        drift: { type: 'switch', every: 2 },
        arms: [arm('a', normal(1, 0)), arm('b', normal(0, 0))],
      }),
      by('epsilon-greedy', 0, { ties: 'first', learningRate: constant(0), start: { kind: 'zero' } }),
      8,
    )
    const sums = played(createPullPlayer(task), [0])
    expect([...sums.measures.best.sums]).toEqual([1, 1, 0, 0, 1, 1, 0, 0])
    expect([...sums.measures.regret.sums]).toEqual([0, 0, 1, 2, 2, 2, 3, 4])
  })

  it('the interval of a mean is that of its standard error', () => {
    // 1, 2 and 6: mean 3, variance 7.
    const sums = emptyPullSums(1)
    for (const reward of [1, 2, 6]) {
      const one = emptyPullSums(1)
      one.runs = 1
      one.score.sums[0] = reward
      one.score.squares[0] = reward * reward
      addPullSums(sums, one)
    }
    const { mean, error } = meanBand(sums, sums.score)
    expect(mean[0]).toBe(3)
    expect(error[0]).toBeCloseTo(1.96 * Math.sqrt(7 / 3), 12)
    expect(meanBand({ ...sums, runs: 1 }, sums.score).error[0]).toBeNaN()
  })
})
