import type { EnvironmentDocument, Kind } from '../../core/kinds/kinds'
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
  /** Of a variant: what it follows. */
  readonly base: BaseName | null
  /** Whether its states are being counted. */
  readonly counting: boolean
  /** Whether it is too large for its states to be counted in passing. */
  readonly uncounted: boolean
  /** Whether there is a picture of it: not of a large one. */
  readonly pictured: boolean
  /** What its author says of it; empty for nothing. */
  readonly note: string
  /** Why it cannot be read; null where it can, or is too large to be looked at in passing. */
  readonly damage: string | null
}

/** An environment that another one follows, as long as it is on the shelf. */
export interface BaseName {
  readonly id: string
  readonly name: string
}

/** An environment as it is opened. */
export interface EnvironmentRecord {
  readonly id: string
  readonly revision: number
  readonly updatedAt: string
  readonly document: EnvironmentDocument
  /** Of a variant: what it follows, as that is now. */
  readonly base: (BaseName & { readonly document: EnvironmentDocument }) | null
}

/** An earlier state of an environment. */
export interface VersionSummary {
  readonly id: string
  /** Given by hand; null for what was kept automatically. */
  readonly name: string | null
  /** ISO 8601: when the environment was last changed before it was kept. */
  readonly createdAt: string
}

export interface VersionRecord extends VersionSummary {
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
  /** Of a save that came too late: nobody changed the environment meanwhile, it only followed its base. */
  readonly followed?: true
}
