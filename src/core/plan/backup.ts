import type { Model, RowPolicy } from '../model/model'

/** A model with a discount folded in, ready for sweeping. */
export interface BackupForm {
  readonly model: Model
  readonly discount: number
  /** [rows] expected reward of the row */
  readonly rowReward: Float64Array
  /** [outcomes] discount x probability, and what the outcome discounts besides */
  readonly weight: Float64Array
}

export function backupForm(model: Model, discount: number): BackupForm {
  const rowReward = new Float64Array(model.rows)
  const { outcomeDiscount } = model
  const weight = model.outcomeProbability.map((probability, o) =>
    outcomeDiscount ? discount * probability * outcomeDiscount[o] : discount * probability,
  )
  for (let r = 0; r < model.rows; r++)
    for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
      rowReward[r] += model.outcomeProbability[o] * model.outcomeReward[o]
  return { model, discount, rowReward, weight }
}

/** The expected backup of one row: expected reward + discount x expected value of the next state. */
export function backupRow(form: BackupForm, row: number, values: Float64Array): number {
  const { outcomeStart, outcomeState } = form.model
  let sum = form.rowReward[row]
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++)
    sum += form.weight[o] * values[outcomeState[o]]
  return sum
}

/**
 * One synchronous sweep of value iteration: `to[s]` becomes the best backup of `s` on `from`; endings stay 0.
 * (Sutton & Barto 2018, equation 4.10; Bellman 1957.)
 * @returns the largest change of a value
 */
export function optimalSweep(form: BackupForm, from: Float64Array, to: Float64Array): number {
  const { states, rowStart, outcomeStart, outcomeState } = form.model
  const { rowReward, weight } = form
  let largest = 0
  let row = 0
  let outcome = 0
  for (let s = 0; s < states; s++) {
    const end = rowStart[s + 1]
    if (row === end) {
      to[s] = 0
      continue
    }
    let best = -Infinity
    for (; row < end; row++) {
      let sum = rowReward[row]
      const last = outcomeStart[row + 1]
      for (; outcome < last; outcome++) sum += weight[outcome] * from[outcomeState[outcome]]
      if (sum > best) best = sum
    }
    to[s] = best
    const change = Math.abs(best - from[s])
    if (change > largest) largest = change
  }
  return largest
}

/** Two action values closer than this, relative to their size, are a tie. */
export const TIE = 1e-9

/** [rows] the backups of all rows on `values`. */
export function actionValues(form: BackupForm, values: Float64Array): Float64Array {
  const found = new Float64Array(form.model.rows)
  for (let row = 0; row < found.length; row++) found[row] = backupRow(form, row, values)
  return found
}

/**
 * The greedy policy of the given action values, ties shared equally.
 * @param rowStart [groups + 1] the rows that belong together: a model's, or a learner's table
 */
export function greedyPolicy(rowStart: Int32Array, rowValues: Float64Array, tie = TIE): RowPolicy {
  const policy = new Float64Array(rowValues.length)
  for (let s = 0; s + 1 < rowStart.length; s++) {
    let best = -Infinity
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (rowValues[r] > best) best = rowValues[r]
    const floor = best - tie * Math.max(1, Math.abs(best))
    let count = 0
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (rowValues[r] >= floor) count++
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (rowValues[r] >= floor) policy[r] = 1 / count
  }
  return policy
}
