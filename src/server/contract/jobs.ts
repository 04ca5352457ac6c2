/** Where a job stands. A job that is active runs, or waits for a free core. */
export type JobState = 'active' | 'paused' | 'done' | 'cancelled' | 'failed'

/** A job of the server, without what came of it. */
export interface JobSummary {
  readonly id: string
  /** The comparison whose runs are played. */
  readonly name: string
  readonly environment: { readonly id: string; readonly name: string }
  readonly state: JobState
  /** Larger ones come first; 0 unless somebody says otherwise. */
  readonly priority: number
  readonly chunks: number
  readonly done: number
  /** How many chunks are being worked on now. */
  readonly busy: number
  /** Seconds that are left, as far as can be told. */
  readonly left: number | null
  /** Why it failed; null otherwise. */
  readonly message: string | null
  /** The program that plays the runs. */
  readonly program: string
  /** ISO 8601 */
  readonly createdAt: string
  readonly finishedAt: string | null
}

export interface JobList {
  readonly jobs: readonly JobSummary[]
  /** What keeps all of them from going on, in words; null where nothing does. */
  readonly notice: string | null
}

/** What can be asked of a job. */
export interface JobChange {
  readonly state?: 'active' | 'paused' | 'cancelled'
  readonly priority?: number
}

/** Runs of a job that are done. */
export interface JobResults {
  readonly chunks: readonly {
    readonly key: string
    /** See `decodeRuns`. */
    readonly runs: string
  }[]
  /** To ask for what comes after these. */
  readonly last: number
  /** Whether there are more already. */
  readonly more: boolean
}
