import type { StoryStep } from '../problem'
import type { CheckRuleId } from './rule-ids'
import type { Walk } from './walk'

export type Severity = 'error' | 'warning' | 'fact'

/** How sure something is. */
export type Proof =
  /** Every state that an episode can reach was looked at, with every action and every outcome. */
  { readonly kind: 'proved'; readonly states: number }

/** Something that is wrong with an environment, or should be known of it. */
export interface Finding {
  readonly rule: CheckRuleId
  readonly severity: Severity
  /** Where: a state, an action, a place of the text. */
  readonly where: string
  /** What, as a full sentence. */
  readonly cause: string
  /** What to do about it; empty where there is nothing to be done. */
  readonly remedy: string
  /** States of the model that it is about, to be marked; the first ones of very many. */
  readonly states: readonly number[]
  /** Cells that it is about, by their names, to be marked too: where there may be no state. */
  readonly cells: readonly string[]
  /** Where it stands in a text, as offsets. */
  readonly span?: { readonly from: number; readonly to: number }
  /** The shortest way there; empty where none is needed. */
  readonly path: readonly StoryStep[]
  /** That way through the model; null where there is none, or no model. */
  readonly walk: Walk | null
  readonly proof: Proof
}

/** States of a finding that are marked at the most. */
export const MARKED = 2000

/** What was not looked for, and why. */
export interface LeftOut {
  readonly rule: CheckRuleId
  /** As a full sentence. */
  readonly why: string
}

/** What checking came to. */
export interface CheckReport {
  /** Of the model; 0 where there is none. */
  readonly states: number
  readonly rows: number
  readonly findings: readonly Finding[]
  /** What holds, rule by rule, as full sentences. */
  readonly proved: readonly { readonly rule: CheckRuleId; readonly sentence: string }[]
  /** What was not looked for, though it might be there. */
  readonly leftOut: readonly LeftOut[]
  readonly seconds: number
}

const ORDER: Readonly<Record<Severity, number>> = { error: 0, warning: 1, fact: 2 }

/** Errors first, then warnings, then facts; otherwise as they were found. */
export function bySeverity(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((x, y) => ORDER[x.severity] - ORDER[y.severity])
}
