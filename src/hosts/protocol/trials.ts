import type { Trials, TrialSettings } from '../../core/evaluate/rollout'
import type { Model, RowPolicy } from '../../core/model/model'
import type { Measure } from '../../core/model/space'
import type { HostFailure } from './common'

/** Episodes without learning of several policies; one request a worker. */
export interface TrialsRequest {
  readonly session: number
  readonly model: Model
  readonly settings: TrialSettings
  readonly measures: readonly Measure[]
  /** Null stands for a best policy, which is worked out first. */
  readonly contestants: readonly { readonly title: string; readonly policy: RowPolicy | null }[]
}

export type TrialsReply =
  | {
      readonly type: 'trials'
      readonly session: number
      readonly title: string
      readonly policy: RowPolicy
      readonly trials: Trials
    }
  | { readonly type: 'finished'; readonly session: number }
  | HostFailure
