import { describe, expect, it } from 'vitest'
import { createPullPlayer } from '../../compare/pull-players'
import { lastPulls, meanBand } from '../../compare/pull-sums'
import { banditModel, bernoulliArms, bernoulliDocument } from '../../testing/bandits'
import { BRIEF, chancyGrid, learned, newLearner } from '../../testing/learning'
import { explorationOf } from '../../settings/exploration'
import type { LearnSettings } from '../../settings/settings'
import { constant } from '../schedule'
import type { Learner } from '../learner'
import { EXPLORATION_WAYS, type ExplorationWay } from './explorations'

const pulling = (
  way: ExplorationWay,
  level: number,
  rest: Partial<LearnSettings> = {},
): Partial<LearnSettings> => ({
  exploration: { way, level: constant(level) },
  learningRate: { kind: 'visits', from: 1, slowness: 1 },
  ...rest,
})

/** Pulls of each arm, in the order of the document. */
const pulls = (learner: Learner) => [...learner.visits]

describe.each(EXPLORATION_WAYS)('exploring by %s', (way) => {
  const model = chancyGrid()
  const settings: Partial<LearnSettings> = { exploration: explorationOf(way), cap: 30 }

  it('tells the chances with which it then chooses, and leaves no mark when it is asked', () => {
    const [one, other] = [0, 1].map(() => newLearner('q-learning', model, settings))
    const counts = new Map<number, { chosen: Float64Array; told: Float64Array }>()
    // Posteriors tell their chances by many draws.
    const steps = way.startsWith('posterior') ? 800 : 6000
    for (let i = 0; i < steps; i++) {
      const at = one.state >= 0 ? one.state : one.world.startState[0]
      const told = one.behaviour(model.observation[at])
      one.advance(1)
      other.advance(1)
      const { state, row } = one.last
      const entry = counts.get(state) ?? {
        chosen: new Float64Array(one.world.tableRows),
        told: new Float64Array(one.world.tableRows),
      }
      entry.chosen[row]++
      const o = model.observation[state]
      for (let r = one.world.tableStart[o]; r < one.world.tableStart[o + 1]; r++) entry.told[r] += told[r]
      counts.set(state, entry)
      if (one.status.outcome !== 'learning') break
    }
    expect([...one.table]).toEqual([...other.table])
    for (const { chosen, told } of counts.values())
      chosen.forEach((count, r) => {
        // Sums of what was told, each a chance of its own: five standard errors, and what 500 draws are off by.
        expect(Math.abs(count - told[r])).toBeLessThan(5 * Math.sqrt(told[r] + 1) + 0.06 * told[r] + 2)
      })
  })

  it('goes on from a snapshot, and explains the choice of each action once', () => {
    const learner = newLearner('q-learning', model, settings)
    learner.advance(500)
    const snapshot = structuredClone(learner.snapshot())
    const again = newLearner('q-learning', model, settings)
    again.restore(snapshot)
    learner.advance(300)
    again.advance(300)
    expect([...again.table]).toEqual([...learner.table])
    expect([...again.visits]).toEqual([...learner.visits])
    const working = learner.choice(0)
    if (working) {
      expect(working.lines).toHaveLength(4)
      expect(working.lines.some(({ strong }) => strong)).toBe(true)
      for (const { parts } of working.lines)
        for (const { value } of parts) if (value !== undefined) expect(Number.isFinite(value)).toBe(true)
    }
  })
})

describe('upper bounds', () => {
  it('try every arm first, and then take the largest bound, as worked out by hand', () => {
    const learner = newLearner('bandit-values', bernoulliArms(1, 1, 1), pulling('ucb1', 1, { ties: 'first' }))
    for (let i = 0; i < 3; i++) learner.advance(1)
    expect(pulls(learner)).toEqual([1, 1, 1])
    expect([...learner.bounds()!].map((bound) => bound.toFixed(9))).toEqual(
      // All pay 1 always: 1 + √(2 ln 3 / 1).
      [0, 0, 0].map(() => (1 + Math.sqrt(2 * Math.log(3))).toFixed(9)),
    )
    learner.advance(1)
    expect(pulls(learner)).toEqual([2, 1, 1])
    expect(learner.bounds()![0]).toBeCloseTo(1 + Math.sqrt((2 * Math.log(4)) / 2), 12)
    const working = learner.choice(0)!
    expect(working.lines.map(({ strong }) => strong)).toEqual([false, true, true])
  })

  it('tuned ones know the variance that was seen', () => {
    const learner = newLearner(
      'bandit-values',
      bernoulliArms(1, 0),
      pulling('ucb1-tuned', 1, { ties: 'first' }),
    )
    for (let i = 0; i < 4; i++) learner.advance(1)
    // No variance was seen: √(ln t / n × min(1/4, √(2 ln t / n))).
    pulls(learner).forEach((n, arm) => {
      const extra = Math.sqrt((2 * Math.log(4)) / n)
      const bound = [1, 0][arm] + Math.sqrt((Math.log(4) / n) * Math.min(0.25, extra))
      expect(learner.bounds()![arm]).toBeCloseTo(bound, 12)
    })
  })

  it('of what is seldom tried shrink with the root of the tries', () => {
    const learner = newLearner('bandit-values', bernoulliArms(0, 0), pulling('count-bonus', 2))
    for (let i = 0; i < 10; i++) learner.advance(1)
    expect(pulls(learner)).toEqual([5, 5])
    expect(learner.bounds()![0]).toBeCloseTo(2 / Math.sqrt(5), 12)
  })
})

it('explore, then commit tries each arm so often, and then only the best', () => {
  const learner = learned('bandit-values', bernoulliArms(0.1, 0.9, 0.5), {
    ...pulling('explore-then-commit', 30),
    episodes: 500,
  })
  expect(pulls(learner)).toEqual([30, 500 - 60, 30])
})

describe('posterior sampling', () => {
  it('believes what conjugate formulas say', () => {
    const learner = learned('bandit-values', bernoulliArms(0.3, 0.6), {
      ...pulling('posterior-bernoulli', 1),
      episodes: 400,
    })
    const [first, second] = pulls(learner)
    // The table is the mean of the rewards: successes over pulls.
    const successes = [learner.table[0] * first, learner.table[1] * second].map(Math.round)
    const working = learner.choice(0)!
    working.lines.forEach(({ parts }, arm) => {
      const numbers = parts.flatMap(({ value }) => (value === undefined ? [] : [value]))
      const count = [first, second][arm]
      expect(numbers[0]).toBe(1 + successes[arm])
      expect(numbers[1]).toBe(1 + count - successes[arm])
      expect(numbers[2]).toBeCloseTo((1 + successes[arm]) / (2 + count), 12)
    })
    const normal = learned('bandit-values', bernoulliArms(0.3, 0.6), {
      ...pulling('posterior-gaussian', 0.5),
      episodes: 400,
    })
    normal.choice(0)!.lines.forEach(({ parts }, arm) => {
      const [mean, deviation] = parts.flatMap(({ value }) => (value === undefined ? [] : [value]))
      const count = pulls(normal)[arm]
      expect(mean).toBeCloseTo(normal.table[arm], 3)
      expect(deviation).toBeCloseTo(0.5 / Math.sqrt(count), 4)
    })
  })
})

describe('regret on arms that pay or do not', () => {
  const chances = [0.3, 0.5, 0.6]
  /** Longer by `npm run test:long`. */
  const [RUNS, SHORT] = process.env.LONG ? [1000, 2000] : [200, 500]
  /** The mean regret after so many pulls. */
  const regrets = (way: ExplorationWay, level: number, times: readonly number[]) => {
    const pulls = Math.max(...times)
    const player = createPullPlayer({
      document: bernoulliDocument(...chances),
      method: 'bandit-values',
      settings: { ...BRIEF, discount: 1, ...pulling(way, level) },
      pulls,
    })
    for (let run = 0; run < RUNS; run++) player.play(run)
    const sums = player.take()
    const { mean } = meanBand(sums, sums.measures.regret)
    return times.map((time) => mean[lastPulls(pulls).findIndex((pull) => pull >= time)])
  }
  /** Lai & Robbins 1985: what no agent that learns on all such problems can stay below, as time goes on. */
  const bound = (episodes: number) =>
    chances.reduce((sum, chance) => {
      const best = Math.max(...chances)
      if (chance === best) return sum
      const divergence = chance * Math.log(chance / best) + (1 - chance) * Math.log((1 - chance) / (1 - best))
      return sum + ((best - chance) / divergence) * Math.log(episodes)
    }, 0)

  it.each([
    ['ucb1', 1],
    ['posterior-bernoulli', 1],
  ] as [ExplorationWay, number][])('of %s grows like the logarithm', (way, level) => {
    const times = [SHORT, 4 * SHORT, 16 * SHORT]
    const [early, middle, late] = regrets(way, level, times)
    const [, before, after] = times.map(bound)
    // Each time four times as long: the logarithm grows by the same amount, a line would grow four times as much.
    expect(late - middle).toBeLessThan(2 * (middle - early))
    expect(late).toBeLessThan(0.35 * 16 * SHORT * 0.1)
    // The bound is on growth in the long run, which posterior sampling comes up to from below.
    expect(late - middle).toBeGreaterThan(0.5 * (after - before))
    if (way === 'ucb1') expect(late).toBeGreaterThan(after)
  })

  it('of constant exploration grows with the number of pulls', () => {
    const [early, late] = regrets('epsilon-greedy', 0.1, [1000, 4000])
    expect(late - early).toBeGreaterThan(1.5 * early * 0.5)
    // A tenth of the pulls is random: 0.1 × (0.3 + 0.1) / 3 each.
    expect(late).toBeGreaterThan((4000 * 0.1 * 0.4) / 3)
  })
})

describe('the gradient bandit', () => {
  it('learns with the mean as its baseline what it does not learn without, when rewards are far from 0', () => {
    const model = banditModel(
      [9, 10, 11].map((mean, i) => ({ name: `arm ${i}`, pays: [{ type: 'gaussian', mean, deviation: 1 }] })),
    )
    const share = (baseline: LearnSettings['baseline']) => {
      let best = 0
      for (let run = 0; run < 40; run++)
        best += learned('gradient-bandit', model, {
          baseline,
          learningRate: constant(0.1),
          episodes: 400,
          run,
        }).visits[2]
      return best / 40 / 400
    }
    // Sutton & Barto 2018, figure 2.5: without a baseline it is markedly worse.
    const [withMean, without] = [share({ kind: 'mean' }), share({ kind: 'none' })]
    expect(withMean).toBeGreaterThan(0.75)
    expect(without).toBeLessThan(withMean - 0.15)
  })
})
