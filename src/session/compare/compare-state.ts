import type { Comparison } from '../../core/compare/comparison'
import type { LearningRun } from '../../core/compare/learning-runs'

/** The comparison that is open, with its runs. */
export interface CompareState {
  /** The one that is open. */
  readonly comparison: Comparison
  /** What it was before each change, the latest last; and what was undone, the latest first. */
  readonly past: readonly Comparison[]
  readonly future: readonly Comparison[]
  /** What came of the runs, by `runKey`, in the order of their numbers. */
  readonly results: Readonly<Record<string, readonly LearningRun[]>>
  /** By the number of a contestant, the key of the runs it had last. */
  readonly before: Readonly<Record<number, string>>
  /** By job of the server, up to where its runs are among the results. */
  readonly taken: Readonly<Record<string, number>>
  readonly running: boolean
  /** Runs done and asked for, of all contestants together. */
  readonly done: number
  readonly asked: number
  /** Milliseconds that are left, as far as can be told. */
  readonly left: number | null
  readonly failure: string | null
}
