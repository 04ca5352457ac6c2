import { describe, expect, it } from 'vitest'
import { World } from '../learn/world'
import { startValue } from '../model/model'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { chancyGrid, roomsWalk } from '../testing/learning'
import { gridModel } from '../testing/models'
import { endingsThatPay, likeliest, playTrial, playTrials } from './trials'

const SETTINGS = { episodes: 4000, seed: 5, cap: 500, discount: 0.9 }

describe('trials', () => {
  it('come to the exact value, within what chance leaves', () => {
    const model = chancyGrid()
    const policy = randomPolicy(model)
    const exact = evaluatePolicy(model, policy, 0.9)
    if (exact.outcome !== 'solved') throw new Error(exact.outcome)
    const trials = playTrials(new World(model), policy, SETTINGS)
    // Four standard errors: off by more in one seed of 16,000.
    expect(Math.abs(trials.mean - startValue(model, exact.values))).toBeLessThan(
      (4 * trials.spread) / Math.sqrt(SETTINGS.episodes),
    )
    expect(trials.ended).toBe(1)
    expect(trials.success).toBeGreaterThan(0)
    expect(trials.success).toBeLessThan(1)
  })

  it('can be played again one by one', () => {
    const model = chancyGrid()
    const world = new World(model)
    const policy = randomPolicy(model)
    const trials = playTrials(world, policy, { ...SETTINGS, episodes: 20 })
    for (const k of [19, 3, 0]) {
      const { rewards, states, rows, ended } = playTrial(world, policy, SETTINGS, k)
      expect(trials.returns[k]).toBeCloseTo(
        rewards.reduce((sum, reward, t) => sum + 0.9 ** t * reward, 0),
        10,
      )
      expect(Math.abs(trials.lengths[k])).toBe(rows.length)
      expect(states.length).toBe(rows.length + 1)
      expect(ended).toBe(model.ending[states.at(-1)!] === 1)
      rows.forEach((row, t) => {
        expect(row).toBeGreaterThanOrEqual(model.rowStart[states[t]])
        expect(row).toBeLessThan(model.rowStart[states[t] + 1])
      })
    }
  })

  it('gives a walk the chances of a gambler: of five rooms, from the middle, half end on the right', () => {
    const model = roomsWalk(5)
    const trials = playTrials(new World(model), randomPolicy(model), { ...SETTINGS, discount: 1 })
    // 4,000 fair coins: standard deviation 0.0079; five of them. Nine steps in the mean: 3 x 3.
    expect(Math.abs(trials.success - 0.5)).toBeLessThan(0.04)
    expect(trials.mean).toBeCloseTo(trials.success, 12)
    expect(Math.abs(trials.meanLength - 9)).toBeLessThan(0.6)
    expect(trials.spread).toBeCloseTo(Math.sqrt((trials.mean * (1 - trials.mean) * 4000) / 3999), 10)
  })

  it('tells being cut off from ending', () => {
    const model = gridModel(['...'], { endings: [{ at: 'C1', reward: -3, name: '' }] })
    expect(endingsThatPay(model)).toBe(false)
    const west = Float64Array.from({ length: model.rows }, (_, r) =>
      model.actions[model.rowAction[r]] === 'west' ? 1 : 0,
    )
    const trials = playTrials(new World(model), west, { ...SETTINGS, episodes: 10, cap: 7 })
    expect(trials.ended).toBe(0)
    expect([...trials.lengths]).toEqual(Array(10).fill(-7))
    const all = playTrials(new World(model), randomPolicy(model), SETTINGS)
    expect(all.success).toBe(all.ended)
  })

  it('adds up what the problem measures', () => {
    const model = gridModel(['..'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'B1', reward: 1, name: '' }],
    })
    const perRow = Float64Array.from({ length: model.rows }, () => 2)
    const trials = playTrials(new World(model), randomPolicy(model), SETTINGS, [{ name: 'doors', perRow }])
    expect(trials.measures[0]).toBeCloseTo(2 * trials.meanLength, 10)
  })
})

it('takes the likeliest action, and shares among equals', () => {
  const model = gridModel(['..'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'B1', reward: 1, name: '' }],
  })
  expect([...likeliest(model, Float64Array.of(0.1, 0.5, 0.2, 0.2))]).toEqual([0, 1, 0, 0])
  expect([...likeliest(model, Float64Array.of(0.4, 0.1, 0.4, 0.1))]).toEqual([0.5, 0, 0.5, 0])
})
