import { describe, expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import { chancyGrid, newLearner } from '../testing/learning'
import { EPISODE_STEPS, explainEpisode } from './episode-table'
import { LEARN_METHOD_IDS } from './methods/methods'
import { constant } from './schedule'

/** Three rooms in a row, each step pays 1, 2 and 4; two actions that do the same. */
function threeRooms() {
  const builder = new ModelBuilder()
  const rooms = ['first', 'second', 'third', 'out'].map((label) => builder.state(label))
  for (const name of ['left', 'right'])
    for (const i of [0, 1, 2])
      builder.outcome(builder.row(rooms[i], builder.action(name)), rooms[i + 1], 1, 2 ** i)
  return builder.build({ starts: [{ state: rooms[0], weight: 1 }], cap: 50 })
}

describe('an episode of REINFORCE', () => {
  it('is worked out by hand: returns backwards, advantages, probabilities before and after', () => {
    const learner = newLearner('reinforce', threeRooms(), {
      discount: 0.5,
      learningRate: constant(0.1),
      baseline: { kind: 'constant', value: 2 },
    })
    const table = explainEpisode(learner, Infinity)
    expect(table).toMatchObject({ episode: 1, firstStep: 0, omitted: 0, ended: 'ending' })
    // 4; 2 + 0.5 x 4 = 4; 1 + 0.5 x 4 = 3.
    expect(table.steps.map(({ gain }) => gain)).toEqual([3, 4, 4])
    expect(table.steps.map(({ reward }) => reward)).toEqual([1, 2, 4])
    expect(table.steps.map(({ probability }) => probability)).toEqual([0.5, 0.5, 0.5])
    for (const { logProbability } of table.steps) expect(logProbability).toBeCloseTo(-0.693147180559945, 12)
    expect(table.steps.map(({ update }) => update!.advantage)).toEqual([1, 2, 2])
    expect(table.steps.map(({ update }) => update!.weight)).toEqual([1, 0.5, 0.25])
    // The preference of the action taken: 0.1 x weight x advantage / 2, of the other one as much below 0.
    table.steps.forEach(({ after }, t) => {
      const moved = 0.1 * [1, 0.5, 0.25][t] * [1, 2, 2][t] * 0.5
      expect(after).toBeCloseTo(1 / (1 + Math.exp(-2 * moved)), 12)
    })
    expect([...table.before]).toEqual([0.5, 0.5, 0.5, 0.5, 0.5, 0.5])
    expect([...table.after]).toEqual([...learner.policy()])
    expect(learner.notes).toBeNull()
  })
})

describe('an episode of an actor-critic', () => {
  it('has the error of each step, with the critic as it was', () => {
    const learner = newLearner('actor-critic', threeRooms(), {
      discount: 0.5,
      criticRate: constant(0.5),
    })
    explainEpisode(learner, Infinity)
    // The critic is at half of the rewards: 0.5, 1, 2. Second episode: 1 + 0.5 x 1 - 0.5, 2 + 0.5 x 2 - 1, 4 - 2.
    const { steps, episode } = explainEpisode(learner, Infinity)
    expect(episode).toBe(2)
    expect(steps.map(({ update }) => update!.baseline)).toEqual([0.5, 1, 2])
    expect(steps.map(({ update }) => update!.worth)).toEqual([1.5, 3, 4])
    expect(steps.map(({ update }) => update!.advantage)).toEqual([1, 2, 2])
  })
})

it.each(LEARN_METHOD_IDS)('of %s it plays just what would have been played', (method) => {
  const [one, other] = [0, 1].map(() => newLearner(method, chancyGrid(), { cap: 20 }))
  one.advance(1e6, 3)
  other.advance(1e6, 3)
  const table = explainEpisode(one, Infinity)
  other.advance(1e6, 4)
  expect([...one.table]).toEqual([...other.table])
  expect(one.steps).toBe(other.steps)
  expect(table.firstStep + table.steps.length).toBe(method === 'exact-ascent' ? 3 : one.steps)
  const { length } = table.steps
  if (length > 0) expect(table.steps[0].gain).toBeCloseTo(one.log.returns[3], 9)
  for (const { probability } of table.steps) expect(probability).toBeGreaterThan(0)
})

it('stops where it is told to, in the middle of the episode, and leaves out what is too long', () => {
  const learner = newLearner('reinforce', threeRooms(), { discount: 0.5 })
  const { steps, ended } = explainEpisode(learner, 2)
  expect(ended).toBe('no')
  expect(steps.map(({ gain }) => gain)).toEqual([2, 2])
  expect(steps.map(({ update }) => update)).toEqual([null, null])
  const builder = new ModelBuilder()
  const room = builder.state('room')
  for (const name of ['a', 'b']) builder.outcome(builder.row(room, builder.action(name)), room, 1, 1)
  const forever = builder.build({ starts: [{ state: room, weight: 1 }], cap: 3000 })
  const long = explainEpisode(newLearner('reinforce', forever, { cap: 3000 }), Infinity)
  expect(long.steps).toHaveLength(EPISODE_STEPS)
  expect(long.omitted).toBe(3000 - EPISODE_STEPS)
  expect(long.ended).toBe('cap')
})
