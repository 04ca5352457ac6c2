import { expect, it } from 'vitest'
import { rulebook } from '../testing/rulebooks'
import { scorePolicies } from './scores'

it('scores random, written and best policies, with what they measure', () => {
  const { model, policies, measures } = rulebook(`state a from 0 to 2
start a = 0
action walk
action pause
next a = if action = walk then a + 1 else a
reward if action = walk then 4 else 1
end when a = 2
measure pauses = action = pause
policy "pause for ever": pause`)
  const scores = scorePolicies(model, policies, measures, 0.5)
  // Random: v1 = (4 + 1 + 0.5 v1) / 2, v0 = (4 + 0.5 v1 + 1 + 0.5 v0) / 2; best: 4 + 0.5 x 4.
  const v1 = 2.5 / 0.75
  expect(scores.map(({ title }) => title)).toEqual([
    'uniform random policy',
    'pause for ever',
    'optimal policy',
  ])
  expect(scores[0].value).toBeCloseTo((2.5 + 0.25 * v1) / 0.75, 9)
  expect(scores[1].value).toBeCloseTo(2, 9)
  expect(scores[2].value).toBeCloseTo(6, 9)
  // A random one rests once before each step on average; the second never ends, so its rests are discounted.
  expect(scores[0].measures[0]).toBeCloseTo(2, 9)
  expect(scores[1].measures[0]).toBeCloseTo(2, 9)
  expect(scores[2].measures[0]).toBe(0)
})

it('says so when there is no finite value', () => {
  const { model } = rulebook('state a from 0 to 1\nstart a = 0\naction on\nnext a = 1 - a\nreward 1')
  expect(scorePolicies(model, [], [], 1)).toEqual([
    { title: 'uniform random policy', optimal: false, value: null, measures: [] },
    { title: 'optimal policy', optimal: true, value: null, measures: [] },
  ])
})
