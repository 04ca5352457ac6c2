import { expect, it } from 'vitest'
import { World } from '../learn/world'
import { randomPolicy } from '../plan/evaluate'
import { chancyGrid } from '../testing/learning'
import { pairedDifference } from './paired'
import { likeliest, playTrials } from './rollout'

const of = (...returns: number[]) => ({ returns: Float64Array.from(returns) })

it('is worked out by hand: 1, 2 and 3 apart', () => {
  const found = pairedDifference(of(5, 7, 9), of(4, 5, 6))!
  expect(found).toMatchObject({ mean: 2, episodes: 3 })
  // The differences have a variance of 1: 1 over the root of 3.
  expect(found.standardError).toBeCloseTo(Math.sqrt(1 / 3), 12)
  expect(pairedDifference(of(5), of(4))).toEqual({ mean: 1, standardError: null, episodes: 1 })
  expect(pairedDifference(of(5), of(4, 5))).toBeNull()
  expect(pairedDifference(of(), of())).toBeNull()
})

it('of a policy and itself is nothing, and of two is less uncertain than their means', () => {
  const model = chancyGrid()
  const world = new World(model)
  const settings = { episodes: 400, seed: 2, cap: 60, discount: 0.9 }
  const sampled = randomPolicy(model)
  // A little more of the first action everywhere.
  const tilted = sampled.map((chance, r) => chance + (model.rowStart.includes(r) ? 0.06 : -0.02))
  const [one, other] = [sampled, tilted].map((policy) => playTrials(world, policy, settings))
  expect(pairedDifference(one, one)).toEqual({ mean: 0, standardError: 0, episodes: 400 })
  const { mean, standardError } = pairedDifference(other, one)!
  expect(mean).toBeCloseTo(other.mean - one.mean, 9)
  expect(standardError!).toBeLessThan(Math.hypot(one.standardError!, other.standardError!))
  expect([...likeliest(model, tilted)].filter((chance) => chance === 1)).toHaveLength(
    model.states - [...model.ending].filter(Boolean).length,
  )
})
