import { describe, expect, it } from 'vitest'
import audioGuide from '../../../demo/audio-guide-tip.json' with { type: 'json' }
import { compileEnvironment } from '../environment/compile'
import type { EnvironmentDocument } from '../kinds/kinds'
import { bernoulliArms } from '../testing/bandits'
import { learned } from '../testing/learning'
import { HandPulls, regretOf } from './hand-pulls'
import { World } from './world'

describe('pulls by hand', () => {
  it('are counted, added up, and the same for the same seed', () => {
    const world = new World(bernoulliArms(0, 1, 0.5))
    const [one, other] = [0, 1].map(() => new HandPulls(world, 4))
    for (const hand of [one, other])
      for (let i = 0; i < 30; i++) {
        expect(hand.pull(0)).toBe(0)
        expect(hand.pull(1)).toBe(1)
        hand.pull(2)
        expect([0, 1]).toContain(hand.last)
      }
    expect([...one.rowPulls]).toEqual([30, 30, 30])
    expect(one.pulls).toBe(90)
    expect(one.total).toBe(other.total)
    expect(one.total).toBeGreaterThan(30)
    expect(one.total).toBeLessThan(60)
    expect(regretOf(world.model, one.rowPulls, false)).toBeCloseTo(30 * 1 + 30 * 0.5, 12)
  })

  it('go from pull to pull where an episode has several', () => {
    const { model } = compileEnvironment(audioGuide as unknown as EnvironmentDocument)
    const hand = new HandPulls(new World(model), 1)
    const seen = new Set<number>()
    for (let i = 0; i < 500; i++) {
      expect(model.ending[hand.state]).toBe(0)
      seen.add(hand.state)
      hand.pull(i % 3)
    }
    expect(seen.size).toBeGreaterThan(50)
  })
})

describe('regret', () => {
  it('of an agent is its pulls times what each arm pays less than the best one', () => {
    const model = bernoulliArms(0.2, 0.7, 0.4)
    const learner = learned('bandit-values', model, { episodes: 500 })
    const pulls = learner.world.toModelRows(learner.visits)
    const [first, , third] = learner.visits
    expect(regretOf(model, pulls, true)).toBeCloseTo(first * 0.5 + third * 0.3, 9)
  })

  it('is not known where arms drift', () => {
    const { model } = compileEnvironment(audioGuide as unknown as EnvironmentDocument)
    expect(regretOf(model, new Float64Array(model.rows).fill(1), true)).toBeNull()
  })
})
