import { describe, expect, it } from 'vitest'
import eveningTickets from '../../../../../demo/evening-tickets.json' with { type: 'json' }
import { compileEnvironment } from '../../../environment/compile'
import { workingText } from '../../../explain/working'
import { rulebookEnvironment } from '../../../kinds/rulebook/blank'
import type { EnvironmentDocument } from '../../../kinds/kinds'
import { startValue, type Model } from '../../../model/model'
import { evaluatePolicy } from '../../../plan/evaluate'
import type { PolicyShape } from '../../../settings/policy-settings'
import type { LearnSettings } from '../../../settings/settings'
import { learned, newLearner, twoStates } from '../../../testing/learning'
import type { Learner } from '../../learner'
import { constant } from '../../schedule'
import { World } from '../../world'
import type { LearnMethodId } from '../methods'
import { LevelPolicy } from './level-policy'

const gaussian = (rest: Partial<Extract<PolicyShape, { kind: 'gaussian' }>> = {}): PolicyShape => ({
  kind: 'gaussian',
  spread: 0.5,
  floor: 0.05,
  wider: 0,
  ...rest,
})

const rules = (text: string): Model => compileEnvironment(rulebookEnvironment('levels', text)).model

/** One decision: a price of 0, 5 or 10, and what it brings in. */
const SHOP = rules(
  'state day from 0 to 1\nstart day = 0\naction price in 0, 5, 10\nreward 3 * price - 0.25 * price * price\nnext day = 1\nend when day = 1',
)
/** Twenty-one prices; 13 brings in most: 13 x (26 - 13) / 10. */
const PRICES = rules(
  'state day from 0 to 1\nstart day = 0\naction price from 0 to 20\nreward price * (26 - price) / 10\nnext day = 1\nend when day = 1',
)
const MIXED = rules(
  'state day from 0 to 1\nstart day = 0\naction wait\naction price in 1, 2\nreward if action = price then price else 0\nnext day = 1\nend when day = 1',
)

const METHODS: LearnMethodId[] = ['reinforce', 'actor-critic', 'generalised-advantage']

function settingsOf(shape: PolicyShape, rest: Partial<LearnSettings> = {}): Partial<LearnSettings> {
  return { shape, discount: 1, learningRate: constant(0.01), ...rest }
}

function exactValue({ world, settings }: Learner, policy: Float64Array): number {
  return startValue(
    world.model,
    evaluatePolicy(world.model, world.toModelRows(policy), settings.discount).values,
  )
}

describe('levels', () => {
  it('are numbers of the actions of a rulebook, where they belong to one action', () => {
    expect([...SHOP.actionLevels!]).toEqual([0, 5, 10])
    expect([...MIXED.actionLevels!]).toEqual([NaN, 1, 2])
    expect(
      rules('state a from 0 to 1\nstart a = 0\naction go\nnext a = 1\nend when a = 1').actionLevels,
    ).toBeNull()
    const two =
      'state a from 0 to 1\nstart a = 0\naction up in 1, 2\naction down in 1, 2\nnext a = 1\nend when a = 1'
    expect(rules(two).actionLevels).toBeNull()
  })
})

describe('a Gaussian over levels', () => {
  it('is the normal density at the levels, worked out by hand', () => {
    const learner = newLearner('reinforce', SHOP, settingsOf(gaussian()))
    // In parts of the range 0, 0.5 and 1, around 0.5 with deviation 0.5: e^-0.5, 1, e^-0.5 over their sum.
    const side = Math.exp(-0.5)
    const policy = learner.policy()
    expect(policy[0]).toBeCloseTo(side / (1 + 2 * side), 12)
    expect(policy[1]).toBeCloseTo(1 / (1 + 2 * side), 12)
    expect(policy[2]).toBeCloseTo(policy[0], 12)
  })

  it('is wider while the level at its mean was seldom taken', () => {
    const world = new World(SHOP)
    const levels = LevelPolicy.of(world, gaussian({ wider: 3 }))!
    expect(levels.used[0]).toBeCloseTo(0.5 * 4, 12)
    levels.move(0, 0, 0, Float64Array.of(0, 8, 0))
    expect(levels.used[0]).toBeCloseTo(0.5 * (1 + 3 / 3), 12)
    // The mean is nearer to the highest level now, which was not taken yet.
    levels.move(0, 0.4, 0, Float64Array.of(0, 8, 0))
    expect(levels.used[0]).toBeCloseTo(0.5 * 4, 12)
  })

  it('keeps its mean in range and its spread above the floor, whatever the steps', () => {
    const levels = LevelPolicy.of(new World(SHOP), gaussian({ floor: 0.1 }))!
    const visits = new Float64Array(3)
    for (const [byMean, bySpread] of [
      [5, -9],
      [-7, 90],
      [1e9, -1e9],
    ]) {
      levels.move(0, byMean, bySpread, visits)
      expect(levels.mean[0]).toBeGreaterThanOrEqual(0)
      expect(levels.mean[0]).toBeLessThanOrEqual(1)
      expect(levels.spread[0]).toBeGreaterThanOrEqual(0.1)
      expect(levels.spread[0]).toBeLessThanOrEqual(3)
    }
    expect(levels.mean[0]).toBe(1)
    expect(levels.spread[0]).toBe(0.1)
  })

  it('moves on average along the exact gradient, times spread² and a half', () => {
    const learner = newLearner('reinforce', SHOP, settingsOf(gaussian({ spread: 0.4 })))
    const { world } = learner
    const valueAt = (mean: number, logSpread: number) => {
      const spread = 0.4 * Math.exp(logSpread)
      const weights = [0, 0.5, 1].map((unit) => Math.exp(-((unit - mean) ** 2) / (2 * spread * spread)))
      const sum = weights.reduce((total, weight) => total + weight, 0)
      return exactValue(
        learner,
        Float64Array.from(weights, (weight) => weight / sum),
      )
    }
    const h = 1e-5
    const ofMean = (valueAt(0.5 + h, 0) - valueAt(0.5 - h, 0)) / (2 * h)
    const ofSpread = (valueAt(0.5, h) - valueAt(0.5, -h)) / (2 * h)
    // The expected step over all actions: each with its probability and its reward.
    const levels = LevelPolicy.of(world, gaussian({ spread: 0.4 }))!
    const policy = learner.policy()
    const rewards = [0, 8.75, 5]
    const step = [0, 0]
    policy.forEach((probability, taken) => {
      const gradient = policy.map((each, r) => rewards[taken] * ((r === taken ? 1 : 0) - each))
      levels.toParameters(0, gradient)
      step[0] += probability * gradient[0]
      step[1] += probability * gradient[1]
    })
    expect(step[0]).toBeCloseTo(ofMean * 0.16, 6)
    expect(step[1]).toBeCloseTo(ofSpread / 2, 6)
  })

  it.each(METHODS)('finds the best of many prices: %s', (method) => {
    const learner = learned(
      method,
      PRICES,
      settingsOf(gaussian({ spread: 0.4, floor: 0.02, wider: 1 }), {
        episodes: 4000,
        learningRate: constant(0.02),
        criticRate: constant(0.05),
        baseline: { kind: 'mean' },
      }),
    )
    expect(exactValue(learner, learner.policy())).toBeGreaterThan(16.9 - 0.35)
    const policy = learner.policy()
    const mean = policy.reduce((sum, probability, price) => sum + probability * price, 0)
    expect(mean).toBeGreaterThan(11.5)
    expect(mean).toBeLessThan(14.5)
  })

  it('goes back and on to the same bits, and through any optimiser', () => {
    for (const method of METHODS)
      for (const rest of [
        {},
        { stepRule: { kind: 'adam', first: 0.9, second: 0.99 } },
        { stepRule: { kind: 'momentum', keep: 0.8 }, normLimit: 1, entropy: 0.1, temperature: 2 },
      ] as Partial<LearnSettings>[]) {
        const model = compileEnvironment(eveningTickets as EnvironmentDocument).model
        const settings = settingsOf(gaussian({ wider: 1 }), { episodes: 60, ...rest })
        const learner = newLearner(method, model, settings)
        learner.advance(150)
        const snapshot = learner.snapshot()
        learner.advance(200)
        const other = newLearner(method, model, settings)
        other.restore(snapshot)
        other.advance(200)
        expect([...other.table]).toEqual([...learner.table])
        expect([...other.policy()]).toEqual([...learner.policy()])
        expect(learner.table.every(Number.isFinite)).toBe(true)
      }
  })

  it('stays sound however large the rate is', () => {
    for (const rate of [1, 1e3, 1e9]) {
      const learner = learned('reinforce', PRICES, settingsOf(gaussian(), { learningRate: constant(rate) }))
      expect(learner.policy().every((probability) => probability >= 0 && probability <= 1)).toBe(true)
      expect(learner.policy().reduce((sum, probability) => sum + probability, 0)).toBeCloseTo(1, 9)
    }
  })

  it('begins with a table by its mean and spread', () => {
    const trained = learned('reinforce', PRICES, settingsOf(gaussian({ floor: 0.02 }), { episodes: 1500 }))
    const begun = newLearner('reinforce', PRICES, settingsOf(gaussian({ floor: 0.02 })))
    begun.begin(trained.table)
    const moments = (policy: Float64Array) => {
      const mean = policy.reduce((sum, probability, price) => sum + probability * price, 0)
      return [mean, policy.reduce((sum, probability, price) => sum + probability * (price - mean) ** 2, 0)]
    }
    const [before, after] = [trained, begun].map((learner) => moments(learner.policy()))
    expect(after[0]).toBeCloseTo(before[0], 1)
    expect(Math.sqrt(after[1])).toBeCloseTo(Math.sqrt(before[1]), 0)
  })

  it('tells what became of mean and spread, in levels', () => {
    const learner = newLearner('reinforce', PRICES, settingsOf(gaussian(), { episodes: 1 }))
    while (learner.advance(10) > 0);
    const text = workingText(learner.working(0)!, String)
    expect(text).toContain('level taken − expected level')
    const [mean, spread] = learner
      .working(0)!
      .lines.map(({ parts }) => parts.flatMap(({ value }) => (value === undefined ? [] : [value])))
    expect(mean[0]).toBe(10)
    expect(mean[0] + mean[1]).toBeCloseTo(mean[2], 9)
    expect(spread[0]).toBe(10)
  })
})

describe('where there are no levels', () => {
  it('the softmax stays, to the same bits', () => {
    for (const model of [twoStates(), MIXED])
      for (const method of METHODS) {
        const one = learned(method, model, settingsOf(gaussian(), { discount: 0.9, episodes: 50 }))
        const other = learned(method, model, settingsOf({ kind: 'softmax' }, { discount: 0.9, episodes: 50 }))
        expect([...one.table]).toEqual([...other.table])
      }
  })

  it('other methods keep the softmax too', () => {
    const settings = settingsOf(gaussian(), { episodes: 50 })
    const one = learned('actor-critic-lambda', PRICES, settings)
    const other = learned('actor-critic-lambda', PRICES, { ...settings, shape: { kind: 'softmax' } })
    expect([...one.table]).toEqual([...other.table])
  })
})
