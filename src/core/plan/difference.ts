import type { Model, RowPolicy } from '../model/model'
import { stateMatcher } from './carry'

/** A finished plan, kept to compare others with. */
export interface HeldPlan {
  /** What names its states and actions. */
  readonly model: Pick<Model, 'labels' | 'actions' | 'ending' | 'rowStart' | 'rowAction'>
  /** [states] */
  readonly values: Float64Array
  /** [rows] */
  readonly policy: RowPolicy
}

/** What is different about a plan, state by state, matched by name. */
export interface PlanDifference {
  /** [states] value now minus the one held; not a number for states that were not there */
  readonly values: Float64Array
  /** [rows] the held policy, as far as the model has its states and actions */
  readonly policy: RowPolicy
  /** [states] 1 where the best actions are not the same ones */
  readonly turned: Uint8Array
  readonly turnedCount: number
  /** States with actions that both plans have. */
  readonly compared: number
  /** States with actions that the held plan does not have. */
  readonly unmatched: number
  /** The largest difference of a value, and the state it is in; -1 when nothing was compared. */
  readonly largest: number
  readonly largestState: number
}

/** Compares a plan with a held one. Actions are matched by name: those a policy takes with any chance count. */
export function comparePlans(
  model: Model,
  values: Float64Array,
  policy: RowPolicy,
  held: HeldPlan,
): PlanDifference {
  const found = stateMatcher(held.model, model)
  const difference = new Float64Array(model.states).fill(NaN)
  const carried = new Float64Array(model.rows)
  const turned = new Uint8Array(model.states)
  let turnedCount = 0
  let compared = 0
  let unmatched = 0
  let largest = 0
  let largestState = -1
  // The held model's action for each of this model's, by name.
  const actionIn = model.actions.map((name) => held.model.actions.indexOf(name))
  const chance = new Float64Array(held.model.actions.length)
  for (let s = 0; s < model.states; s++) {
    const other = found(s)
    if (model.ending[s]) continue
    if (other < 0 || held.model.ending[other]) {
      unmatched++
      continue
    }
    compared++
    difference[s] = values[s] - held.values[other]
    // A state without a finite value, undiscounted, has no difference.
    if (!Number.isNaN(difference[s]) && (largestState < 0 || Math.abs(difference[s]) > Math.abs(largest))) {
      largest = difference[s]
      largestState = s
    }
    let count = 0
    for (let r = held.model.rowStart[other]; r < held.model.rowStart[other + 1]; r++)
      if (held.policy[r] > 0) {
        chance[held.model.rowAction[r]] = held.policy[r]
        count++
      }
    let same = true
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const action = actionIn[model.rowAction[r]]
      if (action >= 0) carried[r] = chance[action]
      if (policy[r] > 0) {
        count--
        if (carried[r] === 0) same = false
      }
    }
    if (!same || count !== 0) {
      turned[s] = 1
      turnedCount++
    }
    for (let r = held.model.rowStart[other]; r < held.model.rowStart[other + 1]; r++)
      chance[held.model.rowAction[r]] = 0
  }
  return {
    values: difference,
    policy: carried,
    turned,
    turnedCount,
    compared,
    unmatched,
    largest,
    largestState,
  }
}
