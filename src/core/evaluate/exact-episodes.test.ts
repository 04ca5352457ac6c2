import { describe, expect, it } from 'vitest'
import { listed } from '../testing/models'
import { randomModel } from '../testing/models'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { startValue } from '../model/model'
import { playTrials } from '../evaluate/rollout'
import { World } from '../learn/world'
import { exactEpisodes, goalSteps, stepsUntil } from './exact-episodes'

/** From a start to the end with a chance of one half each step, which costs 1. */
const coin = listed([
  ['start', 'toss', 'start', 0.5, -1],
  ['start', 'toss', 'end', 0.5, -1],
])

describe('exact episodes', () => {
  it('of a coin that is tossed until it shows heads', () => {
    const { value, endedBy, presence } = exactEpisodes(coin, randomPolicy(coin), 1, 3)
    // 1 - 2^-k
    expect([...endedBy]).toEqual([0, 0.5, 0.75, 0.875])
    // A toss for certain, a second with 1/2, a third with 1/4.
    expect(value).toBe(-1.75)
    expect(presence[0]).toBe(1.75)
    expect(stepsUntil(endedBy, 0.5)).toBe(1)
    expect(stepsUntil(endedBy, 1)).toBe(3)
  })

  it('say nothing of a goal where none is asked for, and count each episode once where one is', () => {
    expect(exactEpisodes(coin, randomPolicy(coin), 1, 3).goalBy[3]).toBe(0)
    // Tossing itself is the goal: every episode has it after one step.
    const goal = new Uint8Array(coin.outcomes).fill(1)
    expect([...exactEpisodes(coin, randomPolicy(coin), 1, 3, goal).goalBy]).toEqual([0, 1, 1, 1])
  })

  it('agree with the exact value where the step limit is far away', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const { model } = randomModel(seed, 6)
      const policy = randomPolicy(model)
      const { value } = exactEpisodes(model, policy, 0.8, 400)
      expect(value).toBeCloseTo(startValue(model, evaluatePolicy(model, policy, 0.8).values), 9)
    }
  })

  it('agree with episodes that are played', () => {
    const { model } = randomModel(3, 6)
    const policy = randomPolicy(model)
    const exact = exactEpisodes(model, policy, 0.9, 12)
    const played = playTrials(new World(model), policy, { episodes: 40_000, seed: 1, cap: 12, discount: 0.9 })
    // Four standard errors, of returns that spread by less than 10.
    expect(Math.abs(played.mean - exact.value)).toBeLessThan((4 * 10) / 200)
    expect(Math.abs(1 - played.cutOff / 40_000 - exact.endedBy[12])).toBeLessThan(4 * 0.0025)
  })
})

describe('what an agent is after', () => {
  it('are endings that pay, where some do', () => {
    const model = listed([
      ['a', 'left', 'pit', 1, -5],
      ['a', 'right', 'door', 1, 3],
      ['a', 'up', 'window', 1, 1],
    ])
    expect([...goalSteps(model)!]).toEqual([0, 1, 1])
  })

  it('are those that cost least, where none does; nothing where nothing ends', () => {
    const model = listed([
      ['a', 'left', 'pit', 1, -5],
      ['a', 'right', 'door', 1, -1],
    ])
    expect([...goalSteps(model)!]).toEqual([0, 1])
    expect(goalSteps(listed([['a', 'stay', 'a', 1, 1]]))).toBeNull()
  })
})
