import { describe, expect, it } from 'vitest'
import { World } from '../learn/world'
import { startValue } from '../model/model'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { chancyGrid, roomsWalk } from '../testing/learning'
import { ModelBuilder } from '../model/builder'
import { gridModel, randomModel } from '../testing/models'
import { cutOffSentence, endingsThatPay, likeliest, playTrial, playTrials } from './rollout'

const SETTINGS = { episodes: 4000, seed: 5, cap: 500, discount: 0.9 }

describe('trials', () => {
  it('come to the exact value, within what chance leaves', () => {
    const model = chancyGrid()
    const policy = randomPolicy(model)
    const exact = evaluatePolicy(model, policy, 0.9)
    if (exact.outcome !== 'solved') throw new Error(exact.outcome)
    const trials = playTrials(new World(model), policy, SETTINGS)
    // Four standard errors: off by more in one seed of 16,000.
    expect(Math.abs(trials.mean - startValue(model, exact.values))).toBeLessThan(4 * trials.standardError!)
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
    expect(Math.abs(trials.success! - 0.5)).toBeLessThan(0.04)
    expect(trials.mean).toBeCloseTo(trials.success!, 12)
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

  it('gives states their means within what chance leaves', () => {
    for (const seed of [2, 3, 4]) {
      const { model } = randomModel(seed, 6)
      const policy = randomPolicy(model)
      const exact = evaluatePolicy(model, policy, 0.9)
      const trials = playTrials(new World(model), policy, { discount: 0.9, episodes: 20000, cap: 400, seed })
      trials.values.forEach((value, s) => {
        if (!Number.isNaN(value)) expect(Math.abs(value - exact.values[s])).toBeLessThan(0.7)
      })
      expect(trials.values.filter((value) => !Number.isNaN(value)).length).toBeGreaterThan(2)
    }
  })

  it('says what a cap took away, and has no means for states it leaves too little to', () => {
    // Waiting pays 1 for ever: 1 / (1 - discount). Two rooms in turn, the second is met one step later.
    const builder = new ModelBuilder()
    const [a, b] = ['a', 'b'].map((label) => builder.state(label))
    const on = builder.action('on')
    builder.outcome(builder.row(a, on), b, 1, 1)
    builder.outcome(builder.row(b, on), a, 1, 1)
    const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 200 })
    const play = (discount: number, cap: number, episodes = 10) =>
      playTrials(new World(model), randomPolicy(model), { discount, cap, episodes, seed: 1 })
    const far = play(0.9999, 200)
    expect(far.mean).toBeCloseTo((1 - 0.9999 ** 200) / 0.0001, 8)
    expect(far.cutOff).toBe(10)
    // What is missing is just what could be: all rewards are the largest.
    expect(far.mean + far.remainder!).toBeCloseTo(10_000, 6)
    expect([...far.values]).toEqual([NaN, NaN])
    expect(cutOffSentence(far, 200)).toBe(
      '10 of 10 episodes were cut off after 200 steps: rewards that were still to come are missing; with them the mean return could be up to 9800 higher or lower.',
    )
    // Discounted by half, ten more steps are enough.
    const near = play(0.5, 200)
    expect(near.values[0]).toBeCloseTo(2, 2)
    expect(near.values[1]).toBeCloseTo(2, 2)
    expect(play(1, 200).remainder).toBeNull()
    expect(cutOffSentence(play(1, 200), 200)).toContain('nothing bounds them')
    const single = play(0.5, 200, 1)
    expect([single.standardError, single.spread]).toEqual([null, null])
  })

  it('leaves out the visits that were cut off, and the states that lost many', () => {
    // From a home in one step, or into a corridor of ten rooms that the cap cuts off.
    const builder = new ModelBuilder()
    const [a, home] = ['a', 'home'].map((label) => builder.state(label))
    const rooms = Array.from({ length: 10 }, (_, i) => builder.state(`room ${i}`))
    const on = builder.action('on')
    builder.outcome(builder.row(a, on), home, 0.995, 1)
    builder.outcome(builder.row(a, on), rooms[0], 0.005, 1)
    rooms.forEach((room, i) => builder.outcome(builder.row(room, on), rooms[i + 1] ?? home, 1, -1))
    const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 5 })
    const trials = playTrials(new World(model), randomPolicy(model), {
      discount: 1,
      cap: 5,
      episodes: 4000,
      seed: 3,
    })
    expect(trials.cutOff).toBeGreaterThan(0)
    expect(trials.values[0]).toBe(1)
    expect(trials.values[2]).toBeNaN()
  })

  it('knows no success where nothing can fail', () => {
    const pull = new ModelBuilder()
    const [machine, over] = ['machine', 'over'].map((label) => pull.state(label))
    pull.outcome(pull.row(machine, pull.action('left')), over, 0.5, 1)
    pull.outcome(pull.row(machine, pull.action('left')), over, 0.5, -1)
    const bandit = pull.build({ starts: [{ state: machine, weight: 1 }], cap: 5 })
    expect(playTrials(new World(bandit), randomPolicy(bandit), SETTINGS).success).toBeNull()
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
