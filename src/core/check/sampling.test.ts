import { describe, expect, it } from 'vitest'
import { fillThresholds, World } from '../learn/world'
import type { Model } from '../model/model'
import { randomPolicy } from '../plan/evaluate'
import { gridModel, listed, randomModel } from '../testing/models'
import { episodeMoments, sampleWorld, type SamplingSettings } from './sampling'

const SETTINGS: SamplingSettings = { draws: 200_000, episodes: 500, seed: 1, cap: 60, discount: 0.9 }
const DICE = listed(
  [
    ['a', 'throw', 'b', 0.3, 1],
    ['a', 'throw', 'c', 0.7, 0],
    ['b', 'throw', 'a', 0.5, 0],
    ['b', 'throw', 'end', 0.5, 2],
    ['c', 'throw', 'end', 1, -1],
  ],
  ['a', 'b'],
)

/** A world that draws the first two outcomes of a row otherwise than its model says. */
function skewedWorld(model: Model, row: number, by: number): World {
  const world = new World(model)
  const from = model.outcomeStart[row]
  const chances = model.outcomeProbability.slice(from, model.outcomeStart[row + 1])
  chances[0] += by
  chances[1] -= by
  const thresholds = new Int32Array(chances.length)
  fillThresholds(thresholds, chances, 0, chances.length)
  world.threshold.set(thresholds, from)
  return world
}

describe('sampling', () => {
  it('finds nothing wrong with what draws as it says, and tells what it would have seen', () => {
    const report = sampleWorld(new World(DICE), SETTINGS)
    // Two rows that are left to chance, and the start.
    expect([report.tests, report.skipped, report.draws]).toEqual([3, 0, 199_998])
    expect(report.disagreements).toEqual([])
    expect(report.power).toBeGreaterThan(0.005)
    expect(report.power).toBeLessThan(0.012)
    expect(report.returns!.p).toBeGreaterThan(0.001)
    expect(report.lengths!.p).toBeGreaterThan(0.001)
  })

  it('finds a chance that is off by what it says it would see, and names the row', () => {
    const world = skewedWorld(DICE, 0, 0.02)
    const { disagreements } = sampleWorld(world, SETTINGS)
    expect(disagreements.map(({ row }) => row)).toEqual([0])
    expect(disagreements[0].declared).toBeOneOf([expect.closeTo(0.3, 12), expect.closeTo(0.7, 12)])
    expect(Math.abs(disagreements[0].observed - disagreements[0].declared)).toBeCloseTo(0.02, 1)
  })

  it('draws nothing where nothing is left to chance', () => {
    const report = sampleWorld(new World(listed([['a', 'go', 'end', 1, 1]])), SETTINGS)
    expect(report).toMatchObject({ tests: 0, draws: 0, power: null, returns: null, lengths: null })
  })

  it('counts outcomes that look alike as one, and puts rare ones together', () => {
    const model = listed([
      ['a', 'go', 'end', 0.25, 1],
      ['a', 'go', 'end', 0.25, 2],
      ['a', 'go', 'a', 0.4999999, 0],
      ['a', 'go', 'b', 0.0000001, 0],
      ['b', 'go', 'end', 1, 0],
    ])
    expect(sampleWorld(new World(model), { ...SETTINGS, draws: 5000 }).disagreements).toEqual([])
    expect(sampleWorld(new World(model), { ...SETTINGS, draws: 15 })).toMatchObject({ tests: 0, skipped: 1 })
  })

  it('accepts the right one as often as it says, and rejects one that is off by 1 %', () => {
    const model = gridModel(['...', '...'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'C2', reward: 5, name: '' }],
      veer: 0.2,
    })
    const row = model.rowStart[1]
    let alarms = 0
    let seen = 0
    for (let seed = 0; seed < 1000; seed++) {
      const settings = { ...SETTINGS, seed, draws: 20_000, episodes: 2 }
      if (sampleWorld(new World(model), settings).disagreements.length) alarms++
    }
    // Ten expected at the level of 1 %, standard deviation 3.1; the test is a little careful.
    expect(alarms).toBeGreaterThanOrEqual(2)
    expect(alarms).toBeLessThanOrEqual(22)
    for (let seed = 0; seed < 5; seed++) {
      const settings = { ...SETTINGS, seed, draws: 3_000_000, episodes: 2 }
      const world = skewedWorld(model, row, 0.01)
      if (sampleWorld(world, settings).disagreements.some((each) => each.row === row)) seen++
    }
    expect(seen).toBe(5)
  }, 120_000)
})

describe('the moments of an episode', () => {
  it('are those of all episodes there are', () => {
    for (let problem = 1; problem <= 25; problem++) {
      const { model } = randomModel(problem, 4)
      const policy = randomPolicy(model)
      const [discount, cap] = [0.8, 4]
      const found = { mean: 0, square: 0, length: 0, lengthSquare: 0 }
      const go = (s: number, chance: number, weight: number, sum: number, steps: number) => {
        if (steps === cap || model.ending[s]) {
          found.mean += chance * sum
          found.square += chance * sum * sum
          found.length += chance * steps
          found.lengthSquare += chance * steps * steps
          return
        }
        for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
          for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
            go(
              model.outcomeState[o],
              chance * policy[r] * model.outcomeProbability[o],
              weight * discount,
              sum + weight * model.outcomeReward[o],
              steps + 1,
            )
      }
      model.startState.forEach((s, i) => go(s, model.startProbability[i], 1, 0, 0))
      const { returns, lengths } = episodeMoments(model, policy, discount, cap)
      expect(returns.mean).toBeCloseTo(found.mean, 9)
      expect(returns.variance).toBeCloseTo(found.square - found.mean ** 2, 8)
      expect(lengths.mean).toBeCloseTo(found.length, 9)
      expect(lengths.variance).toBeCloseTo(found.lengthSquare - found.length ** 2, 8)
    }
  })
})
