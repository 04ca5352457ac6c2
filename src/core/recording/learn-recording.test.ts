import { describe, expect, it } from 'vitest'
import { LEARN_METHOD_IDS } from '../learn/methods/methods'
import { RandomStream } from '../random/generator'
import { chancyGrid, newLearner, roomsWalk } from '../testing/learning'
import { LearnRecording } from './learn-recording'

const SETTINGS = { episodes: 120, cap: 25 }

describe.each(LEARN_METHOD_IDS)('a recorded run of %s', (method) => {
  it('goes to any step, forward and back, to the same bits', () => {
    const model = chancyGrid()
    // Little memory: keyframes get rarer several times.
    const recording = new LearnRecording(newLearner(method, model, SETTINGS), 40_000)
    while (recording.forward(97) > 0);
    const { reached } = recording
    const picks = new RandomStream(1, 'environment')
    const tables = new Map<number, string>()
    const direct = newLearner(method, model, SETTINGS)
    const targets = Array.from({ length: 12 }, () => picks.below(reached + 1)).sort((a, b) => a - b)
    for (const target of targets) {
      direct.advance(target - direct.steps)
      tables.set(target, [...direct.table].join())
    }
    for (let i = 0; i < 40; i++) {
      const target = targets[picks.below(targets.length)]
      recording.goTo(target)
      expect(recording.learner.steps).toBe(target)
      expect([...recording.learner.table].join()).toBe(tables.get(target))
    }
    expect(recording.reached).toBe(reached)
    expect(recording.front.outcome).toBe('done')
  })
})

it('keeps to its memory however long the run is', () => {
  const recording = new LearnRecording(newLearner('q-learning', chancyGrid(), { episodes: 100_000 }), 60_000)
  let most = 0
  for (let i = 0; i < 60; i++) {
    recording.forward(5000)
    most = Math.max(most, recording.kept)
  }
  expect(recording.reached).toBe(300_000)
  expect(most).toBeLessThan(40)
  expect(recording.kept).toBeGreaterThanOrEqual(8)
})

it('keeps few moments of a large table: copying it takes longer than steps do', () => {
  const few = (rooms: number) => {
    const recording = new LearnRecording(
      newLearner('q-learning', roomsWalk(rooms), { episodes: 100_000, cap: 100 }),
    )
    recording.forward(4096)
    return recording.kept - 1
  }
  expect(few(10)).toBe(16)
  // 30,000 rooms with two actions each: two megabytes and more, as many steps as bytes by two hundred.
  expect(few(30_000)).toBe(0)
})

it('plays again what was played, and then goes on', () => {
  const recording = new LearnRecording(newLearner('sarsa', chancyGrid(), SETTINGS))
  recording.forward(500)
  const table = [...recording.learner.table]
  recording.goTo(100)
  expect(recording.finished).toBe(false)
  recording.forward(400)
  expect([...recording.learner.table]).toEqual(table)
  expect(recording.reached).toBe(500)
  while (recording.forward(1000) > 0);
  expect(recording.finished).toBe(true)
  expect(recording.episodes).toBe(120)
  recording.goTo(3)
  expect(recording.finished).toBe(false)
  expect(recording.learner.status.outcome).toBe('learning')
})

it('goes to the end of an episode', () => {
  const recording = new LearnRecording(newLearner('q-learning', chancyGrid(), SETTINGS))
  while (recording.forward(1000) > 0);
  for (const episode of [60, 1, 0, 120, 119]) {
    recording.goToEpisode(episode)
    expect(recording.learner.log.count).toBe(episode)
    expect(recording.learner.state).toBe(-1)
  }
  recording.goToEpisode(500)
  expect(recording.finished).toBe(true)
})

it('knows what the step it went to changed', () => {
  const recording = new LearnRecording(newLearner('q-learning', chancyGrid(), SETTINGS))
  recording.forward(1000)
  for (const step of [256, 512, 1, 700]) {
    recording.goTo(step)
    expect(recording.learner.changes.count).toBe(1)
  }
})
