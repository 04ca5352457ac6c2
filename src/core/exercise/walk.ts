import { compileEnvironment } from '../environment/compile'
import { playTrial } from '../evaluate/rollout'
import { World } from '../learn/world'
import { capFor } from '../settings/settings'
import { environmentOf, type Exercise } from './exercise'
import { policyOf, type HandIn } from './hand-in'

/** An episode in words, step by step. */
export interface Walk {
  /** The number of the episode, from 0. */
  readonly episode: number
  readonly steps: readonly { readonly state: string; readonly action: string; readonly reward: number }[]
  /** The state it was left in. */
  readonly last: string
  /** Whether it ended by itself; else the step limit cut it off. */
  readonly ended: boolean
}

/** An episode of a hand-in, as it is played for its score. @param number  that of the level */
export function walkOf(
  exercise: Exercise,
  handIn: HandIn,
  number: number,
  seed: number,
  episode: number,
): Walk {
  const document = environmentOf(exercise, exercise.levels[number])
  const compiled = compileEnvironment(document)
  const { labels, actions, rowAction } = compiled.model
  const { states, rows, rewards, ended } = playTrial(
    new World(compiled.model),
    policyOf(handIn, compiled, document),
    { episodes: 1, seed, cap: capFor(document.cap), discount: document.discount },
    episode,
  )
  return {
    episode,
    steps: Array.from(rows, (row, t) => ({
      state: labels[states[t]],
      action: actions[rowAction[row]],
      reward: rewards[t],
    })),
    last: labels[states[rows.length]],
    ended,
  }
}
