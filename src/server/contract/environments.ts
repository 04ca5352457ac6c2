import type { EnvironmentDocument, Kind } from '../../core/environment/document'
import type { Problem } from '../../core/problem'

/** An environment as the shelf shows it. */
export interface EnvironmentSummary {
  readonly id: string
  readonly name: string
  readonly kind: Kind
  readonly revision: number
  /** Null while the document does not compile. */
  readonly states: number | null
  readonly actions: number | null
  /** ISO 8601 */
  readonly updatedAt: string
  /** For the picture; left out when it is large. */
  readonly document: EnvironmentDocument | null
}

/** An environment as it is opened. */
export interface EnvironmentRecord {
  readonly id: string
  readonly revision: number
  readonly updatedAt: string
  readonly document: EnvironmentDocument
}

/** The answer to a save: what the next save has to name. */
export interface SaveReceipt {
  readonly revision: number
  readonly updatedAt: string
}

/** The body of every answer that is an error. */
export interface ProblemReport {
  readonly problems: readonly Problem[]
}
