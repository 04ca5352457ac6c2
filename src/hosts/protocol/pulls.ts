import type { PullSums } from '../../core/compare/pull-sums'
import type { PullTask } from '../../core/compare/pull-task'
import type { HostFailure } from './common'

export type PullsRequest =
  | { readonly type: 'open'; readonly session: number; readonly tasks: readonly PullTask[] }
  /** Plays the runs of a task from `from` up to, not including, `to`. */
  | { readonly type: 'play'; readonly task: number; readonly from: number; readonly to: number }

export type PullsReply =
  | {
      readonly type: 'played'
      readonly session: number
      readonly task: number
      readonly from: number
      readonly sums: PullSums
    }
  | HostFailure
