import type { CheckReport } from '../../core/check/finding'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import type { HostFailure } from './common'

/** Looks for everything that is wrong with an environment; a worker does one after the other. */
export interface CheckRequest {
  readonly session: number
  readonly document: EnvironmentDocument
  readonly compiled: Compiled
}

export type CheckReply =
  /** So many rules of so many are done. */
  | { readonly type: 'progress'; readonly session: number; readonly done: number; readonly of: number }
  | { readonly type: 'checked'; readonly session: number; readonly report: CheckReport }
  | HostFailure
