import { describe, expect, it } from 'vitest'
import { chancyGrid, exploring, learned, newLearner } from '../testing/learning'
import { gridModel, randomModel } from '../testing/models'
import { LEARN_METHOD_IDS, LEARN_METHODS, learnMethod, pseudoPlaceOf } from './methods/methods'
import { constant } from './schedule'
import type { LearnSettings } from '../settings/settings'

const DECAYING: Partial<LearnSettings> = {
  exploration: { way: 'epsilon-greedy', level: { kind: 'linear', from: 1, to: 0.1, over: 900, per: 'step' } },
  cap: 15,
}

describe.each(LEARN_METHOD_IDS)('%s', (method) => {
  it('does not depend on how the steps are cut into chunks', () => {
    const model = chancyGrid()
    const whole = learned(method, model, DECAYING, 1e9)
    for (const chunk of [1, 37]) {
      const other = learned(method, model, DECAYING, chunk)
      expect([...other.table]).toEqual([...whole.table])
      expect([...other.log.returns]).toEqual([...whole.log.returns])
      expect(other.steps).toBe(whole.steps)
    }
  })

  it('goes on from a snapshot as if nothing had been, in another learner too', () => {
    for (const model of [chancyGrid(), randomModel(4, 8).model]) {
      const learner = newLearner(method, model, DECAYING)
      for (const steps of [0, 1, 13, 400]) {
        learner.advance(steps)
        const snapshot = structuredClone(learner.snapshot())
        const other = newLearner(method, model, DECAYING)
        other.advance(77)
        learner.advance(200)
        other.restore(snapshot)
        other.advance(200)
        expect([...other.table]).toEqual([...learner.table])
        expect([...other.visits]).toEqual([...learner.visits])
        expect([...other.behaviour()]).toEqual([...learner.behaviour()])
        expect(other.last).toEqual(learner.last)
        expect(other.steps).toBe(learner.steps)
        for (let observation = 0; observation < model.observations; observation++)
          expect(other.working(observation)).toEqual(learner.working(observation))
        learner.restore(snapshot)
        learner.advance(200)
        expect([...learner.table]).toEqual([...other.table])
      }
    }
  })

  it('explains every update with the number that then stands in the table', () => {
    // What moves preferences is held to its numbers in methods/policy.
    const preferences = LEARN_METHODS[method].tableHolds === 'preferences'
    const model = chancyGrid()
    const learner = newLearner(method, model, { cap: 8, exploration: exploring(0.3) })
    const { world } = learner
    const pseudo = learnMethod(method).pseudo.map(({ at }) => at)
    let seen = 0
    for (let i = 0; i < 400; i++) {
      learner.advance(1)
      expect(pseudo).toContain(pseudoPlaceOf(LEARN_METHODS[method], learner))
      const { changes } = learner
      if (changes.count === 0) continue
      // Exact ascent takes no step in the world.
      if (learner.last.state < 0) continue
      const observation = world.observation[learner.last.state]
      const working = learner.working(observation)
      if (!working) continue
      const strong = working.lines.filter((line) => line.strong)
      expect(strong.length).toBe(1)
      const numbers = strong[0].parts.flatMap(({ value }) => (value === undefined ? [] : [value]))
      if (method === 'double-q-learning' || preferences) continue
      // Planning may have gone over the cell again since.
      if (method === 'dyna-q') continue
      const cells =
        LEARN_METHODS[method].tableHolds === 'values'
          ? [learner.table[observation]]
          : [...learner.table.subarray(world.tableStart[observation], world.tableStart[observation + 1])]
      expect(cells).toContain(numbers.at(-1))
      if (numbers.length === 4) expect(numbers[0] + numbers[1] * numbers[2]).toBeCloseTo(numbers[3], 12)
      seen++
    }
    if (!preferences && !['double-q-learning', 'dyna-q'].includes(method)) expect(seen).toBeGreaterThan(20)
  })

  it('tells what the last step changed, so that it can be taken back', () => {
    const learner = newLearner(method, chancyGrid(), { cap: 9 })
    for (let i = 0; i < 300; i++) {
      const before = learner.table.slice()
      learner.advance(1)
      const { cells, before: was, count } = learner.changes
      const restored = learner.table.slice()
      for (let k = count - 1; k >= 0; k--) restored[cells[k]] = was[k]
      expect([...restored]).toEqual([...before])
    }
  })

  it('gives policies that are chances', () => {
    const learner = learned(method, chancyGrid(), { episodes: 50 })
    const { tableStart } = learner.world
    for (const policy of [learner.policy(), learner.behaviour()])
      for (let observation = 0; observation < tableStart.length - 1; observation++) {
        if (tableStart[observation] === tableStart[observation + 1]) continue
        const chances = policy.subarray(tableStart[observation], tableStart[observation + 1])
        expect(chances.every((chance) => chance >= 0)).toBe(true)
        expect(chances.reduce((sum, chance) => sum + chance, 0)).toBeCloseTo(1, 12)
      }
  })

  it('begins with the table it is told to, and leaves endings at 0', () => {
    const model = chancyGrid()
    const { tableHolds } = LEARN_METHODS[method]
    const optimistic = newLearner(method, model, { start: { kind: 'constant', value: 7 } })
    const random = newLearner(method, model, { start: { kind: 'random', spread: 0.5 } })
    const other = newLearner(method, model, { start: { kind: 'random', spread: 0.5 }, seed: 4 })
    optimistic.table.forEach((value, cell) =>
      expect(value).toBe(tableHolds === 'values' && model.ending[cell] ? 0 : 7),
    )
    expect(new Set(random.table).size).toBeGreaterThan(5)
    for (const value of random.table) expect(Math.abs(value)).toBeLessThanOrEqual(0.5)
    expect([...other.table]).not.toEqual([...random.table])
    const begun = newLearner(method, model)
    begun.begin(optimistic.table)
    expect([...begun.table]).toEqual([...optimistic.table])
    // The same from here on, as it began with the same.
    begun.advance(100)
    optimistic.advance(100)
    expect([...begun.table]).toEqual([...optimistic.table])
  })

  it('cites where it comes from', () => {
    expect(LEARN_METHODS[method].source).toMatch(/\d{4}/)
    expect(LEARN_METHODS[method].pseudo.some(({ at }) => at === 'start')).toBe(true)
  })
})

it('stops where a stop rule says so', () => {
  const model = chancyGrid()
  const bySteps = learned('q-learning', model, { stop: { kind: 'steps', count: 123 }, episodes: 5000 })
  expect(bySteps.steps).toBe(123)
  expect(bySteps.status.outcome).toBe('stopped')
  const byReturn = learned('q-learning', model, {
    stop: { kind: 'mean-return', atLeast: -4, over: 20 },
    episodes: 5000,
  })
  const { count } = byReturn.log
  expect(byReturn.status).toMatchObject({
    outcome: 'stopped',
    reason: expect.stringMatching(/mean return of the last 20/),
  })
  expect(byReturn.log.rollingMean(count - 1, 20)).toBeGreaterThanOrEqual(-4)
  for (let episode = 20; episode < count; episode++)
    expect(byReturn.log.rollingMean(episode - 1, 20)).toBeLessThan(-4)
  expect(learned('sarsa', model).status.outcome).toBe('done')
})

it('catches a table that runs away, and names it before anything is lost', () => {
  // A rate of 1 with accumulating traces of a state that is visited again and again: each visit counts anew.
  const model = gridModel(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }], stepReward: -1 })
  const learner = learned('sarsa-lambda', model, {
    learningRate: constant(1),
    lambda: 1,
    discount: 0.99,
    traces: 'accumulating',
    exploration: exploring(1),
    episodes: 3000,
    cap: 500,
  })
  expect(learner.status).toMatchObject({
    outcome: 'diverged',
    reason: expect.stringMatching(/diverged in step .*smaller learning rate/),
  })
  for (const value of learner.table) expect(Math.abs(value)).toBeLessThan(1e7)
  expect(learner.advance(100)).toBe(0)
})

it('keeps softmax and Expected SARSA numbers at any temperature', () => {
  for (const temperature of [1e-6, 1, 1e6]) {
    const learner = learned('expected-sarsa', chancyGrid(), {
      exploration: { way: 'softmax', level: constant(temperature) },
    })
    for (const value of learner.table) expect(Number.isFinite(value)).toBe(true)
    for (const chance of learner.behaviour()) expect(chance >= 0 && chance <= 1).toBe(true)
  }
})

it('takes the first of equals when told to, and then runs into the same wall for ever', () => {
  const model = gridModel(['...', '...'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'C2', reward: 10, name: '' }],
    stepReward: 0,
  })
  const stuck = learned('q-learning', model, {
    ties: 'first',
    exploration: exploring(0),
    episodes: 5,
    cap: 30,
  })
  expect(stuck.log.lengths.every((length) => length === -30)).toBe(true)
  expect(stuck.visits[0]).toBe(150)
  const random = learned('q-learning', model, {
    ties: 'random',
    exploration: exploring(0),
    episodes: 5,
    cap: 30,
  })
  expect(random.visits.filter((count) => count > 0).length).toBeGreaterThan(3)
})
