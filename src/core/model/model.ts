/**
 * The finite decision process that every kind of environment compiles to.
 *
 * States are 0 … states - 1. A state has one *row* per available action, and a row has *outcomes*, all in
 * compressed rows: the rows of state s are rowStart[s] … rowStart[s + 1] - 1, the outcomes of row r are
 * outcomeStart[r] … outcomeStart[r + 1] - 1. An ending state has no rows, and its value is 0.
 */
export interface Model {
  readonly states: number
  readonly rows: number
  readonly outcomes: number
  /** The names of all actions; a row names one of them. */
  readonly actions: readonly string[]
  /** [states + 1] */
  readonly rowStart: Int32Array
  /** [rows] index into `actions` */
  readonly rowAction: Int32Array
  /**
   * [actions] of actions that are levels of one number, that number; NaN for actions without one. Null where there is no
   * such number.
   */
  readonly actionLevels: Float64Array | null
  /** [rows + 1] */
  readonly outcomeStart: Int32Array
  /** [outcomes] the next state */
  readonly outcomeState: Int32Array
  /** [outcomes] above 0; each row sums to 1 within 1e-9 */
  readonly outcomeProbability: Float64Array
  /** [outcomes] the expected reward of that step, given where it ends */
  readonly outcomeReward: Float64Array
  /**
   * [outcomes] what comes after the outcome counts times this, besides the discount: below 1 after stretches that pass
   * by themselves and take time; expected, given where the outcome leads. Null where it is 1 everywhere.
   */
  readonly outcomeDiscount: Float64Array | null
  /** [states] 1 where an episode ends */
  readonly ending: Uint8Array
  /** States an episode can start in, never an ending, with probabilities that sum to 1. */
  readonly startState: Int32Array
  readonly startProbability: Float64Array
  /** Steps after which an episode is cut off, which is not an end; 0 for no cap. */
  readonly cap: number
  /** [states] what a learner sees instead of the state, 0 … observations - 1; equal ones share their actions. */
  readonly observation: Int32Array
  readonly observations: number
  /** [states] unique names for people and files */
  readonly labels: readonly string[]
}

/** Row probabilities of a policy: [rows], each state's rows sum to 1. */
export type RowPolicy = Float64Array

/** The expected value of `values` over the start distribution. */
export function startValue(model: Model, values: Float64Array): number {
  let sum = 0
  for (let i = 0; i < model.startState.length; i++)
    sum += model.startProbability[i] * values[model.startState[i]]
  return sum
}

/** The row of an action in a state; -1 where it is not available. */
export function rowOf({ rowStart, rowAction }: Model, state: number, action: number): number {
  for (let r = rowStart[state]; r < rowStart[state + 1]; r++) if (rowAction[r] === action) return r
  return -1
}

/** The state that a row belongs to. */
export function stateOfRow({ rowStart, states }: Model, row: number): number {
  return holderOf(rowStart, states, row)
}

/** The row that an outcome belongs to. */
export function rowOfOutcome({ outcomeStart, rows }: Model, outcome: number): number {
  return holderOf(outcomeStart, rows, outcome)
}

/** The last of `count` parts that begins at or before a place: empty parts are passed over. */
function holderOf(start: Int32Array, count: number, place: number): number {
  let [low, high] = [0, count - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (start[middle] <= place) low = middle
    else high = middle - 1
  }
  return low
}
