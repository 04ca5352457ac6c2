import { expect, it } from 'vitest'
import { LearningRuns } from '../../core/compare/learning-runs'
import { choiceIn } from '../../core/settings/first-choice'
import { gridDocument } from '../../core/testing/models'
import { answerChunk, playChunk } from './play-chunk'

const HALL = gridDocument(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }] })
const task = {
  document: HALL,
  choice: choiceIn(HALL, { method: 'sarsa', episodes: 20 }),
  ask: { measures: [], trials: 0 },
}

it('a chunk is its runs, each as it is alone, whatever was played before', () => {
  const alone = new LearningRuns(task)
  expect(playChunk({ key: 'a', task, from: 3, to: 5 })).toEqual([alone.play(3), alone.play(4)])
  const asked = { ...task, ask: { measures: ['greedy'], trials: 2 } }
  const [told] = playChunk({ key: 'a', task: asked, from: 3, to: 4 })
  expect(told.curves.greedy).toHaveLength(20)
  expect(told.trials?.episodes).toBe(2)
  expect(playChunk({ key: 'a', task, from: 4, to: 5 })).toEqual([alone.play(4)])
})

it('what is wrong with the environment comes back as such; what is wrong with the program is thrown', () => {
  const lost = { ...task, follows: { kind: 'action', action: 'fly' } as const }
  expect(answerChunk({ key: 'b', task: lost, from: 0, to: 1 })).toEqual({
    problems: [expect.objectContaining({ cause: 'The environment has no action "fly".' })],
  })
  const seed = { ...task, choice: { ...task.choice, seed: -1 } }
  expect(() => answerChunk({ key: 'c', task: seed, from: 0, to: 1 })).toThrow('seed -1')
})
