import type { CheckContext } from '../context'
import type { Severity } from '../finding'
import type { Verdict } from '../verdict'

/** Something that is looked for in every state that an episode can reach. */
export interface CheckRule {
  /** What it looks for, in a few words. */
  readonly title: string
  readonly severity: Severity
  /** What is known when it finds nothing. */
  readonly proves: string
  /** Whether what it says gives away what is hidden from a class. */
  readonly tellsTruth?: boolean
  judge(context: CheckContext): Verdict
}
