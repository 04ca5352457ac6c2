import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { LearnMethodId } from '../../core/learn/methods/methods'
import type { RunSummary } from '../../core/learn/seeds'
import type { Model } from '../../core/model/model'
import type { LearnSettings } from '../../core/settings/settings'
import type { HostFailure } from './common'

export type SeedsRequest =
  | {
      readonly type: 'open'
      readonly session: number
      readonly model: Model
      /** What problems of single runs are drawn from; null where all runs meet the model. */
      readonly document: EnvironmentDocument | null
      readonly method: LearnMethodId
      /** Of all runs but their numbers. */
      readonly settings: LearnSettings
      readonly table: Float64Array | null
      /** The episodes at which the runs are compared, from 1. */
      readonly episodes: Float64Array
      readonly window: number
    }
  /** Takes one run to its end. */
  | { readonly type: 'run'; readonly run: number }

export type SeedsReply =
  { readonly type: 'run'; readonly session: number; readonly summary: RunSummary } | HostFailure
