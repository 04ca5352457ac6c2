import type { ChunkRunner } from '../hosts/node/run-pool'

/** Where the command line writes; tests pass their own. */
export interface Terminal {
  out(text: string | Uint8Array): void
  err(text: string): void
  /** Whether a person looks at `err` while it is written: then it has a progress bar. */
  readonly isWatched?: boolean
  /** What plays many runs; threads on all cores unless said otherwise. */
  runner?(): ChunkRunner
}
