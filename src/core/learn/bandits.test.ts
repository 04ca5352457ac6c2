import { describe, expect, it } from 'vitest'
import { tenArms } from '../testing/bandits'
import { newLearner } from '../testing/learning'
import type { LearnMethodId } from './methods/methods'
import { constant, type Schedule } from './schedule'
import type { LearnSettings } from '../settings/settings'

/**
 * The ten-armed testbed: another problem in every run. What is expected are bands read off figures 2.2 to 2.5 of
 * Sutton & Barto 2018, with room for the error of fewer runs.
 */
const RUNS = process.env.LONG ? 2000 : 250
const PULLS = 1000
const MEAN: Schedule = { kind: 'visits', from: 1, slowness: 1 }

/** The share of pulls of the best arm, and the mean reward, over the last hundred pulls. */
function late(method: LearnMethodId, settings: Partial<LearnSettings>, centre = 0) {
  let best = 0
  let reward = 0
  for (let run = 0; run < RUNS; run++) {
    const problem = tenArms(run, centre)
    const learner = newLearner(method, problem.model, { discount: 1, episodes: PULLS, run, ...settings })
    learner.advance(PULLS - 100)
    const before = learner.visits[problem.best]
    learner.advance(100)
    best += (learner.visits[problem.best] - before) / 100 / RUNS
    reward += learner.log.rollingMean(PULLS - 1, 100) / RUNS
  }
  return { best, reward }
}

const greedy = (chance: number, rest: Partial<LearnSettings> = {}): Partial<LearnSettings> => ({
  exploration: { way: 'epsilon-greedy', level: constant(chance) },
  learningRate: MEAN,
  ...rest,
})

const between = (value: number, low: number, high: number) => {
  expect(value).toBeGreaterThan(low)
  expect(value).toBeLessThan(high)
}

describe('ten arms', () => {
  it('a little exploration beats none, and more finds the best arm sooner (figure 2.2)', () => {
    const [none, little, more] = [0, 0.01, 0.1].map((chance) => late('bandit-values', greedy(chance)))
    between(none.best, 0.25, 0.45)
    between(none.reward, 0.85, 1.15)
    between(little.best, 0.48, 0.7)
    between(more.best, 0.73, 0.87)
    between(more.reward, 1.22, 1.48)
    expect(more.best).toBeGreaterThan(little.best)
    expect(little.best).toBeGreaterThan(none.best)
  })

  it('optimism explores without chance (figure 2.3)', () => {
    const step = { learningRate: constant(0.1) }
    const optimistic = late('bandit-values', greedy(0, { ...step, start: { kind: 'constant', value: 5 } }))
    const realistic = late('bandit-values', greedy(0.1, step))
    between(optimistic.best, 0.75, 0.93)
    between(realistic.best, 0.65, 0.85)
    expect(optimistic.best).toBeGreaterThan(realistic.best)
  })

  it('upper bounds earn more than constant exploration (figure 2.4)', () => {
    // 2 √(ln t / n) is √2 times √(2 ln t / n).
    const bounds = late('bandit-values', {
      learningRate: MEAN,
      exploration: { way: 'ucb1', level: constant(Math.SQRT2) },
    })
    between(bounds.reward, 1.38, 1.62)
    expect(bounds.reward).toBeGreaterThan(late('bandit-values', greedy(0.1)).reward)
  })

  it('a gradient bandit needs its baseline where rewards are far from 0 (figure 2.5)', () => {
    const share = (rate: number, kind: 'mean' | 'none') =>
      late('gradient-bandit', { learningRate: constant(rate), baseline: { kind } }, 4).best
    between(share(0.1, 'mean'), 0.75, 0.93)
    between(share(0.4, 'mean'), 0.62, 0.85)
    between(share(0.1, 'none'), 0.42, 0.68)
    between(share(0.4, 'none'), 0.28, 0.52)
  })

  it('posterior sampling with the right deviation finds the best arm nearly always', () => {
    const posterior = late('bandit-values', {
      learningRate: MEAN,
      exploration: { way: 'posterior-gaussian', level: constant(1) },
    })
    expect(posterior.best).toBeGreaterThan(0.8)
    between(posterior.reward, 1.4, 1.65)
  })
})
