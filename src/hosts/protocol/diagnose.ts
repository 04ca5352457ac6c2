import type { DiagnosisAsk } from '../../core/diagnose/diagnose'
import type { DiagnosisReport } from '../../core/diagnose/finding'
import type { HostFailure } from './common'

/** Looks for what is wrong with a run. */
export interface DiagnoseRequest {
  readonly session: number
  readonly ask: DiagnosisAsk
}

export type DiagnoseReply =
  /** So many parts of the work of so many are done. */
  | { readonly type: 'progress'; readonly session: number; readonly done: number; readonly of: number }
  | { readonly type: 'diagnosed'; readonly session: number; readonly report: DiagnosisReport }
  | HostFailure
