import type { LearnChoice } from '../settings/choice'
import type { DiagnosisRuleId } from './rule-ids'

/** A change of settings that should mend what is wrong. */
export interface Change {
  /** What is to be done, as a full sentence. */
  readonly words: string
  /** What it changes. */
  readonly choice: Partial<LearnChoice>
}

/** What a change did when it was tried: the mean over the same seeds. */
export interface Tried {
  readonly runs: number
  /** What is measured: the exact value of the learned policy, or of how the agent acts in the end. */
  readonly of: Yardstick
  readonly before: number
  readonly after: number
}

/** What is to become better: what was learned, or how the agent acts at the end of the run, exploring included. */
export type Yardstick = 'policy' | 'behaviour'

/** How sure something is. */
export type Proof =
  /** It follows from the model and the settings, whatever the run. */
  | { readonly kind: 'proved' }
  /** It was seen in the run. */
  | { readonly kind: 'seen' }
  /** It was seen in so many of so many runs with other seeds. */
  | { readonly kind: 'seeds'; readonly seen: number; readonly of: number }

/** A bar of a small picture. */
export interface Bar {
  readonly label: string
  readonly value: number
  /** What it belongs to, where bars fall into groups; those of a group stand together. */
  readonly group?: string
}

/** A small picture beside a finding. */
export interface FindingPicture {
  /** What its bars are, with the unit. */
  readonly title: string
  readonly bars: readonly Bar[]
}

/** What is wrong with a run, or should be known of it. */
export interface Diagnosis {
  readonly rule: DiagnosisRuleId
  /** What the rule looks at. */
  readonly looksAt: string
  /** In a line. */
  readonly title: string
  /** What shows it, as full sentences. */
  readonly evidence: string
  readonly proof: Proof
  /** States of the model that it is about, in the order in which they are to be read; the first ones of very many. */
  readonly states: readonly number[]
  readonly picture: FindingPicture | null
  /** What would mend it; null where that cannot be set here. */
  readonly change: Change | null
  /** What to do where no setting helps; empty where nothing is to be done. */
  readonly advice: string
  /** What came of trying the change; null where it was not tried. */
  readonly tried: Tried | null
  /** How much value it explains, in units of return; 0 for what only should be known. */
  readonly explains: number
}

/** What came of looking for what is wrong with a run. */
export interface DiagnosisReport {
  /** What explains most first. */
  readonly findings: readonly Diagnosis[]
  /** The exact value of the learned policy, of the best one and of a random one, as far as episodes may go; null where not known. */
  readonly learned: number | null
  readonly best: number | null
  readonly random: number | null
  /** Whether nothing is wrong with what was learned. */
  readonly healthy: boolean
  /** Runs with other seeds that were looked at, too. */
  readonly runs: number
  readonly seconds: number
}

/** States of a finding that are marked at the most. */
export const MARKED = 500
