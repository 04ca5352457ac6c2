import { createLearner } from '../learn/methods/learners'
import { LEARN_METHODS, type LearnMethodId } from '../learn/methods/methods'
import type { Learner } from '../learn/learner'
import { constant } from '../learn/schedule'
import { LEARN_DEFAULTS, type LearnSettings } from '../settings/settings'
import { World } from '../learn/world'
import type { Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { RandomStream } from '../random/generator'
import { gridModel } from './models'

/** Settings for tests: like those a run begins with, but with little to do. */
export const BRIEF: LearnSettings = { ...LEARN_DEFAULTS, discount: 0.9, cap: 60, episodes: 300, seed: 3 }

export function exploring(chance: number): LearnSettings['exploration'] {
  return { way: 'epsilon-greedy', level: constant(chance) }
}

export function newLearner(
  method: LearnMethodId,
  model: Model,
  settings: Partial<LearnSettings> = {},
): Learner {
  return createLearner(method, new World(model), {
    ...BRIEF,
    learningRate: LEARN_METHODS[method].defaultLearningRate,
    ...settings,
  })
}

/** A run from its beginning to its end. */
export function learned(
  method: LearnMethodId,
  model: Model,
  settings: Partial<LearnSettings> = {},
  chunk = 1000,
): Learner {
  const learner = newLearner(method, model, settings)
  while (learner.advance(chunk) > 0);
  return learner
}

/** A grid with a wall, carpet, a good and a bad ending, and veering. */
export function chancyGrid(): Model {
  return gridModel(['....', '.#:.', '....'], {
    starts: [{ at: 'A3', weight: 1 }],
    endings: [
      { at: 'D1', reward: 10, name: '' },
      { at: 'D2', reward: -10, name: '' },
    ],
    veer: 0.2,
  })
}

/** A walk over a row of rooms, a step to either side, with an ending at both ends that pays 0 on the left and 1 on the right. */
export function roomsWalk(rooms: number): Model {
  const builder = new ModelBuilder()
  const left = builder.state('left end')
  const states = Array.from({ length: rooms }, (_, i) => builder.state(`room ${i + 1}`))
  const right = builder.state('right end')
  const all = [left, ...states, right]
  for (let i = 1; i <= rooms; i++) {
    builder.outcome(builder.row(all[i], builder.action('back')), all[i - 1], 1, 0)
    builder.outcome(builder.row(all[i], builder.action('on')), all[i + 1], 1, i === rooms ? 1 : 0)
  }
  return builder.build({ starts: [{ state: all[(rooms + 1) >> 1], weight: 1 }], cap: 1000 })
}

/** A hall: going home pays nothing; the cabinet has ten drawers that pay 1 or -1, a little more often -1. */
export function drawers(): Model {
  const builder = new ModelBuilder()
  const [hall, cabinet, home] = ['hall', 'cabinet', 'home'].map((label) => builder.state(label))
  builder.outcome(builder.row(hall, builder.action('go home')), home, 1, 0)
  builder.outcome(builder.row(hall, builder.action('open the cabinet')), cabinet, 1, 0)
  for (let k = 1; k <= 10; k++) {
    const drawer = builder.row(cabinet, builder.action(`drawer ${k}`))
    builder.outcome(drawer, home, 0.45, 1)
    builder.outcome(drawer, home, 0.55, -1)
  }
  return builder.build({ starts: [{ state: hall, weight: 1 }], cap: 10 })
}

/** Two states with two actions each, chancy, and an ending. */
export function twoStates(): Model {
  const builder = new ModelBuilder()
  const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
  const [left, right] = ['left', 'right'].map((name) => builder.action(name))
  builder.outcome(builder.row(a, left), b, 0.7, 1)
  builder.outcome(builder.row(a, left), end, 0.3, 0)
  builder.outcome(builder.row(a, right), a, 0.5, 0)
  builder.outcome(builder.row(a, right), end, 0.5, 2)
  builder.outcome(builder.row(b, left), a, 0.4, -1)
  builder.outcome(builder.row(b, left), end, 0.6, 5)
  builder.outcome(builder.row(b, right), end, 1, 1)
  return builder.build({ starts: [{ state: a, weight: 1 }], cap: 400 })
}

/** States with one to seven actions that fall on one to forty outcomes, some of them very rarely; the last state is an ending. */
export function manyOutcomes(): Model {
  const stream = new RandomStream(5, 'environment')
  const builder = new ModelBuilder()
  const states = 12
  for (let s = 0; s < states; s++) builder.state(`s${s}`)
  for (let s = 0; s < states - 1; s++)
    for (let a = 0; a <= (s * 5) % 7; a++) {
      const row = builder.row(s, builder.action(`a${a}`))
      // Each next state once, so that none are put together; weights fall by powers of two.
      const targets = Array.from({ length: 1 + stream.below(states) }, (_, k) => (s + a + 5 * k) % states)
      const weights = targets.map(() => 2 ** -(1 + stream.below(18)))
      const total = weights.reduce((sum, weight) => sum + weight, 0)
      targets.forEach((target, k) => builder.outcome(row, target, weights[k] / total, stream.below(9) - 4))
    }
  return builder.build({ starts: [{ state: 0, weight: 1 }], cap: 50 })
}
