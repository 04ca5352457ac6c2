import type { Working } from '../../core/explain/working'
import type { Model } from '../../core/model/model'
import type { PlanMethodId } from '../../core/plan/plan-methods'
import type { PlanPhase, PlanStatus } from '../../core/plan/planner'
import type { PlanSettings } from '../../core/plan/plan-settings'
import type { HorizonPlan } from '../../core/plan/horizon'
import type { PlanGoal } from '../../core/recording/plan-recording'
import type { HostFailure, Speed } from './common'

export type PlanRequest =
  | {
      readonly type: 'open'
      readonly session: number
      /** Null when it is the model of the request before. */
      readonly model: Model | null
      readonly method: PlanMethodId
      readonly settings: PlanSettings
      /**
       * Goes to the end at once, from the values there are, state by state by name, and shows nothing of the
       * beginning: for a plan that follows a change.
       */
      readonly follow: boolean
    }
  /** Goes on until nothing is left to do, a goal is reached, or `pause`. */
  | { readonly type: 'run'; readonly speed: Speed; readonly unit: PlanUnit; readonly goal: PlanGoal }
  | { readonly type: 'pause' }
  | { readonly type: 'step'; readonly unit: PlanUnit; readonly way: 'on' | 'back' }
  /** To the end of a sweep, or into it. */
  | { readonly type: 'go'; readonly sweep: number; readonly done: number | null }
  /** On or back to where so many backups have been made, as far as the plan goes. */
  | { readonly type: 'match'; readonly backups: number }
  /** The state whose working every frame brings along. */
  | { readonly type: 'watch'; readonly state: number | null }
  /** All stages of a finite horizon at once. */
  | { readonly type: 'horizon' }
  | { readonly type: 'shown' }

/** What one step of a plan is. */
export type PlanUnit = 'sweep' | 'backup'

export interface PlanFrame {
  readonly type: 'frame'
  readonly session: number
  readonly method: PlanMethodId
  readonly sweep: number
  /** How many backups of the sweep have been made, out of `length`; null when all have. */
  readonly done: number | null
  readonly length: number
  readonly reached: number
  readonly running: boolean
  /** Nothing is left to do. */
  readonly finished: boolean
  readonly status: PlanStatus
  /** [states] now, and before the last sweep */
  readonly values: Float64Array
  readonly before: Float64Array
  /** [rows] what every action is worth */
  readonly rowValues: Float64Array
  /** [rows] the policy that is followed, else the greedy one */
  readonly policy: Float64Array
  /** Whether the method holds a policy. */
  readonly holdsPolicy: boolean
  /** [rows] the policy before the last sweep; null when there was none or the model is large */
  readonly policyBefore: Float64Array | null
  readonly phase: PlanPhase
  /** Which line of the pseudo-code is at hand. */
  readonly place: string
  /** The state that was backed up last; -1 for none. */
  readonly current: number
  /** Of the state that is watched. */
  readonly working: Working | null
  /** Backups of a single action so far. */
  readonly backups: number
  readonly change: number
  readonly bound: number
  /** The sweep since which the best actions are what they are, of those reached; null where that is not known. */
  readonly settled: number | null
  /** Of the sweeps `fromSweep` + 1 …: the largest change, and the backups made to their ends. */
  readonly fromSweep: number
  readonly changes: Float64Array
  readonly work: Float64Array
}

export interface HorizonReply extends HorizonPlan {
  readonly type: 'horizon'
  readonly session: number
}

export type PlanReply = PlanFrame | HorizonReply | HostFailure
