import type { DiagnosisContext } from './context'
import type { Change, Diagnosis, Yardstick } from './finding'

/** What a rule found, before its changes were tried. */
export interface Suspicion {
  readonly title: string
  readonly evidence: string
  readonly proof: 'proved' | 'seen'
  readonly states?: ArrayLike<number>
  readonly picture?: Diagnosis['picture']
  /** What may mend it: the one that helps most is suggested. One that does not help is no explanation. */
  readonly changes?: readonly Change[]
  /** What a change is to make better; the learned policy unless said otherwise. */
  readonly of?: Yardstick
  /** The discount by which that is measured; that of the run unless said otherwise. */
  readonly discount?: number
  /** What to do where no setting helps. */
  readonly advice?: string
  /** How much value it explains where that follows from the model, without trying a change. */
  readonly explains?: number
}

/** Something that may be wrong with a run. */
export interface DiagnosisRule {
  /** What it looks for, in a few words. */
  readonly title: string
  /** What it looks at. */
  readonly looksAt: string
  /** Null where it has nothing to say. */
  suspect(context: DiagnosisContext): Suspicion | null
}
