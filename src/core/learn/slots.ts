/**
 * Fields of an update that learners keep for each observation, so that it can be explained later. -1 in the first field
 * says that there was no update yet.
 */
export const SLOT = {
  /** The table row that was updated, or the observation where the table holds values of states. */
  row: 0,
  old: 1,
  reward: 2,
  /** The state that came next. */
  next: 3,
  ahead: 4,
  result: 5,
  /** Counted from 0. */
  step: 6,
  rate: 7,
} as const
export const SLOT_SIZE = 8

/**
 * One-step control: the row of the action taken next, -1 as long as none was chosen, and what others would have looked
 * ahead to: the largest value there or, for Q-learning, that of the action taken next.
 */
export const ONE_STEP_SLOT = { nextRow: SLOT_SIZE, other: SLOT_SIZE + 1 } as const
export const ONE_STEP_SLOT_SIZE = SLOT_SIZE + 2

/** Double Q-learning: which of the two tables was written, and the row that it held for the best one next. */
export const DOUBLE_SLOT = { second: SLOT_SIZE, nextRow: SLOT_SIZE + 1 } as const
export const DOUBLE_SLOT_SIZE = SLOT_SIZE + 2

/** With traces: the trace of the cell when it was updated, and the error of the step. */
export const TRACE_SLOT = { trace: SLOT_SIZE, error: SLOT_SIZE + 1 } as const
export const TRACE_SLOT_SIZE = SLOT_SIZE + 2

/** Rewards of a Monte Carlo update that are kept to be shown. */
export const SHOWN = 6
/**
 * From returns (which stand in the place of the reward): how many rewards went in, the first of them, the discount of
 * what follows each, and what the return was after those. n-step methods keep all n rewards.
 */
export const RETURN_SLOT = {
  length: SLOT_SIZE,
  rewards: SLOT_SIZE + 1,
  discounts: SLOT_SIZE + 1 + SHOWN,
  rest: SLOT_SIZE + 1 + 2 * SHOWN,
} as const
export const RETURN_SLOT_SIZE = SLOT_SIZE + 2 + 2 * SHOWN
