import { createPlanner } from './planners'
import { startValue, type Model, type RowPolicy } from '../model/model'
import { greedyPolicy } from './backup'
import { actionValuesAt } from './moment'
import { defaultPlanMethod } from './plan-methods'
import { PLAN_DEFAULTS } from './plan-settings'
import type { Planner, PlanStatus } from './planner'
import { properPolicy } from './proper'

/** Every value of an optimum is certain to this, in units of reward. */
export const OPTIMUM_TOLERANCE = 1e-9

/** The best there is in a model. */
export interface Optimum {
  /** [states] */
  readonly values: Float64Array
  /** The value of the start. */
  readonly start: number
  /** [rows] all best actions, sharing */
  readonly ties: RowPolicy
  /** [rows] one best action a state; at discount 1 such that an ending comes wherever that can be had */
  readonly policy: RowPolicy
}

/**
 * The one way to an optimum: by the quickest method for the size, to one tolerance, in slices. What is shown beside a
 * run, what trials compare with and what the command line solves are the same bits.
 */
export class OptimumSearch {
  readonly planner: Planner

  constructor(model: Model, discount: number) {
    this.planner = createPlanner(defaultPlanMethod(model), model, {
      ...PLAN_DEFAULTS,
      discount,
      tolerance: OPTIMUM_TOLERANCE,
    })
  }

  get status(): PlanStatus {
    return this.planner.status
  }

  /** One sweep. @returns whether another one is needed */
  advance(): boolean {
    this.planner.sweep()
    return this.planner.status.outcome === 'running'
  }

  /** Null where there is none: no value is finite, or it was not found. */
  get optimum(): Optimum | null {
    const { planner } = this
    if (planner.status.outcome !== 'converged') return null
    const { model, settings } = planner
    const ties = greedyPolicy(model.rowStart, actionValuesAt(planner, null, false))
    return {
      values: planner.values.slice(),
      start: startValue(model, planner.values),
      ties,
      policy: onePolicy(model, ties, settings.discount),
    }
  }
}

/** One action a state of several that are as good: see {@link properPolicy}; discounted, the first of them. */
export function onePolicy(model: Model, ties: RowPolicy, discount: number): RowPolicy {
  if (discount === 1) return properPolicy(model, ties).policy
  const policy = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      if (ties[r] > 0) {
        policy[r] = 1
        break
      }
  return policy
}

/** The optimum in one go, for places that can wait; null where there is none. */
export function solveOptimum(model: Model, discount: number): Optimum | null {
  const search = new OptimumSearch(model, discount)
  while (search.status.outcome === 'running') search.advance()
  return search.optimum
}
