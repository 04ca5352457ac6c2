import type { Model } from '../model/model'
import { greedyPolicy } from './backup'
import { actionValuesAt } from './moment'
import { PLAN_DEFAULTS } from './plan-settings'
import { BackwardInduction } from './value-iteration'

/** Values and best actions for every number of steps that are left, from 1 on. */
export interface HorizonPlan {
  /** How many; fewer than the horizon where all would be too much to hold. */
  readonly count: number
  /** [count x states] */
  readonly values: Float64Array
  /** [count x rows] */
  readonly policy: Float64Array
}

/** How many numbers of a policy are held over all numbers of steps. */
const LIMIT = 2_000_000

/** The plan for every number of steps that are left, by backward induction (Puterman 1994, section 4.5). */
export function planHorizon(model: Model, discount: number, horizon: number): HorizonPlan {
  const count = Math.max(1, Math.min(horizon, Math.floor(LIMIT / Math.max(1, model.rows))))
  const planner = new BackwardInduction(model, { ...PLAN_DEFAULTS, discount, horizon: count })
  const values = new Float64Array(count * model.states)
  const policy = new Float64Array(count * model.rows)
  for (let k = 0; k < count; k++) {
    planner.sweep()
    values.set(planner.values, k * model.states)
    policy.set(greedyPolicy(model.rowStart, actionValuesAt(planner, null, true)), k * model.rows)
  }
  return { count, values, policy }
}
