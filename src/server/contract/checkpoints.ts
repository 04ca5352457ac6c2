import type { TableHolds } from '../../core/learn/learner'
import type { LearnMethodId } from '../../core/learn/methods/methods'

/** A learned table that was kept, without its numbers. */
export interface CheckpointSummary {
  readonly id: string
  readonly name: string
  /** The environment it was learned on. */
  readonly environment: { readonly id: string; readonly name: string }
  readonly method: LearnMethodId
  readonly holds: TableHolds
  readonly steps: number
  readonly episodes: number
  /** ISO 8601 */
  readonly createdAt: string
}
