import type { LearningRun, LearningTask } from '../../core/compare/learning-runs'
import type { HostFailure } from './common'

export type LearningRunsRequest =
  | { readonly type: 'open'; readonly session: number; readonly tasks: readonly LearningTask[] }
  /** Plays the runs of a task from `from` up to, not including, `to`. */
  | { readonly type: 'play'; readonly task: number; readonly from: number; readonly to: number }

export type LearningRunsReply =
  | {
      readonly type: 'played'
      readonly session: number
      readonly task: number
      readonly runs: readonly LearningRun[]
    }
  | HostFailure
