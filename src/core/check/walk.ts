import type { TrialEpisode } from '../evaluate/rollout'
import type { Model } from '../model/model'

/** Steps one after the other, from a state of the model: what a story, a hand or an episode comes to. */
export interface Walk {
  readonly start: number
  /** The outcome of each step, as the model numbers them. Each follows on the one before. */
  readonly outcomes: readonly number[]
}

/** The states of a walk: one more than it has steps. */
export function statesOf({ outcomeState }: Model, { start, outcomes }: Walk): number[] {
  return [start, ...outcomes.map((outcome) => outcomeState[outcome])]
}

/** The likeliest outcome of a row, of those that lead to a state; -1 where none does. @param next  -1 for any */
export function likeliestOutcome(model: Model, row: number, next = -1): number {
  const { outcomeStart, outcomeState, outcomeProbability } = model
  let best = -1
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++)
    if (next < 0 || outcomeState[o] === next)
      if (best < 0 || outcomeProbability[o] > outcomeProbability[best]) best = o
  return best
}

/** An episode that was played as a walk through the model. */
export function walkOfEpisode(
  model: Model,
  { states, rows, rewards }: Pick<TrialEpisode, 'states' | 'rows' | 'rewards'>,
): Walk {
  return {
    start: states[0],
    outcomes: Array.from(rows, (row, t) => outcomeOf(model, row, states[t + 1], rewards[t])),
  }
}

/** The outcome of a row that leads to a state for a reward; the first where several are alike. */
export function outcomeOf(model: Model, row: number, next: number, reward: number): number {
  for (let o = model.outcomeStart[row]; o < model.outcomeStart[row + 1]; o++)
    if (model.outcomeState[o] === next && model.outcomeReward[o] === reward) return o
  throw new Error('a step came to no outcome of its row')
}
