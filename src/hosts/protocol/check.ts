import type { CheckReport } from '../../core/check/finding'
import type { SamplingReport, SamplingSettings } from '../../core/check/sampling'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import type { Model } from '../../core/model/model'
import type { HostFailure } from './common'

/** A worker does one after the other. */
export type CheckRequest =
  /** Looks for everything that is wrong with an environment. */
  | {
      readonly type: 'check'
      readonly session: number
      readonly document: EnvironmentDocument
      readonly compiled: Compiled
    }
  /** Draws, and compares frequencies with what is declared. */
  | {
      readonly type: 'sample'
      readonly session: number
      readonly model: Model
      readonly settings: SamplingSettings
    }

export type CheckReply =
  /** So many rules of so many are done. */
  | { readonly type: 'progress'; readonly session: number; readonly done: number; readonly of: number }
  | { readonly type: 'checked'; readonly session: number; readonly report: CheckReport }
  | { readonly type: 'sampled'; readonly session: number; readonly sampling: SamplingReport }
  | HostFailure
