import type { Score } from '../../core/evaluate/scores'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import type { StartWays } from '../../core/plan/ending-notes'
import type { Problem } from '../../core/problem'
import type { HostFailure } from './common'

/** What was compiled besides the model, and besides what has the size of the model and changes with it only. */
export type RestOfCompiled = Omit<Compiled, 'model' | 'space' | 'measures'>

/** A newer request takes an older one's place. */
export type CompileRequest =
  | {
      readonly type: 'compile'
      readonly session: number
      readonly document: EnvironmentDocument
      /** The session in which the model came that the page has; null for none. */
      readonly has: number | null
    }
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
  /** The model is the one that the page has. */
  | { readonly type: 'renewed'; readonly session: number; readonly rest: RestOfCompiled }
  /** How far the endings are, of the last one that was compiled. */
  | { readonly type: 'ways'; readonly session: number; readonly ways: StartWays }
  | { readonly type: 'scored'; readonly session: number; readonly scores: readonly Score[] }
  | { readonly type: 'refused'; readonly session: number; readonly problems: readonly Problem[] }
  | HostFailure
