import type { Score } from '../../core/evaluate/scores'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import type { StartWays } from '../../core/plan/ending-notes'
import type { Problem } from '../../core/problem'
import type { HostFailure } from './common'

/** A newer request takes an older one's place. */
export type CompileRequest =
  | { readonly type: 'compile'; readonly session: number; readonly document: EnvironmentDocument }
  /** What the policies of the last compiled rulebook are worth. */
  | { readonly type: 'score'; readonly session: number; readonly discount: number }
  | { readonly type: 'cancel' }

export type CompileReply =
  | {
      readonly type: 'progress'
      readonly session: number
      readonly states: number
      readonly rows: number
    }
  | { readonly type: 'compiled'; readonly session: number; readonly compiled: Compiled }
  /** How far the endings are, of the last one that was compiled. */
  | { readonly type: 'ways'; readonly session: number; readonly ways: StartWays }
  | { readonly type: 'scored'; readonly session: number; readonly scores: readonly Score[] }
  | { readonly type: 'refused'; readonly session: number; readonly problems: readonly Problem[] }
  | HostFailure
