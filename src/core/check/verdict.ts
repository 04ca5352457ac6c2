import type { Severity } from './finding'
import type { Walk } from './walk'

/** What a rule found, before the rest is filled in. */
export interface Found {
  /** Where it is another one than that of the rule. */
  readonly severity?: Severity
  readonly where: string
  readonly cause: string
  readonly remedy?: string
  readonly states?: ArrayLike<number>
  readonly cells?: readonly string[]
  readonly span?: { readonly from: number; readonly to: number }
  readonly walk?: Walk | null
}

/**
 * What a rule says of an environment: what it found, a sentence that says what holds, or why it was not looked for;
 * none of them where it does not apply.
 */
export interface Verdict {
  readonly found: readonly Found[]
  readonly holds?: string
  readonly leftOut?: string
}

export const NOTHING: Verdict = { found: [] }

/** Not looked for, and why: a full sentence. */
export function leftOut(why: string): Verdict {
  return { found: [], leftOut: why }
}

/** What was found, or else that something holds. */
export function verdict(found: readonly Found[], holds?: string): Verdict {
  return found.length ? { found } : { found, holds }
}
