import type { Model } from '../model/model'

/** A part of a reward: `step −1`, `ending exit 10`. */
export interface RewardPart {
  readonly title: string
  readonly amount: number
}

/** One way in which a step can go: what chance does, and what comes of it. */
export interface Happening {
  /** Above 0; those of a row sum to 1. */
  readonly probability: number
  /** What chance did: `callers = 3`, `veers west`; empty where nothing is left to chance. */
  readonly fell: string
  /** What each chance of its own name came to, in the order of `chanceNames`; empty where there are none. */
  readonly drawn: readonly string[]
  /** The state it leads to; -1 where time passes by itself until something is to be decided. */
  readonly next: number
  /** What the step itself pays; parts that pay nothing are left out. */
  readonly parts: readonly RewardPart[]
  /** What was carried out in place of the action that was chosen; null where it was that one. */
  readonly instead: string | null
}

/** All the ways in which the step of a row of the model can go. */
export type Happenings = (row: number) => readonly Happening[]

/** Ways of one row that are told apart at the most; what has more is told by its outcomes alone. */
export const MOST_HAPPENINGS = 5000

/** The ways of a row as the model has them, for environments that say no more: its outcomes. */
export function outcomesAsHappenings(model: Model, title: string): Happenings {
  const { outcomeStart, outcomeProbability, outcomeState, outcomeReward } = model
  return (row) =>
    Array.from({ length: outcomeStart[row + 1] - outcomeStart[row] }, (_, k): Happening => {
      const o = outcomeStart[row] + k
      return {
        probability: outcomeProbability[o],
        fell: '',
        drawn: [],
        next: outcomeState[o],
        parts: outcomeReward[o] === 0 ? [] : [{ title, amount: outcomeReward[o] }],
        instead: null,
      }
    })
}
