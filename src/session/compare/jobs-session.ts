import { createStore, type StoreApi } from 'zustand'
import type { Comparison } from '../../core/compare/comparison'
import type { LearningRun } from '../../core/compare/learning-runs'
import { decodeRuns } from '../../core/compare/runs-text'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import type { JobChange, JobSummary } from '../../server/contract/jobs'
import { jobServer, type JobServer } from '../api/jobs'

export interface JobsState {
  readonly jobs: readonly JobSummary[]
  /** What keeps all of them from going on; null where nothing does. */
  readonly notice: string | null
  /** What went wrong last, in words. */
  readonly problem: string | null
}

/** What takes the runs of the jobs of one environment. */
export interface RunTaker {
  /** Where the runs of a job are known up to; 0 for none. */
  known(job: string): number
  take(
    job: string,
    last: number,
    chunks: readonly { readonly key: string; readonly runs: readonly LearningRun[] }[],
  ): void
}

/** The jobs of the server, and the runs of those of this environment as they come. Knows no React. */
export interface JobsSession {
  readonly store: StoreApi<JobsState>
  /** Asks for the jobs, and again as long as any is at work. @param taker  who wants the runs; null for nobody */
  watch(taker?: RunTaker | null): Promise<void>
  submit(comparison: Comparison, document: EnvironmentDocument): Promise<void>
  change(id: string, change: JobChange): Promise<void>
  remove(id: string): Promise<void>
  stop(): void
}

/** Milliseconds between two questions while something is at work. */
const PAUSE = 1000

export function createJobsSession(
  environment: string,
  server: JobServer = jobServer,
  later: (work: () => void, milliseconds: number) => void = (work, milliseconds) =>
    void setTimeout(work, milliseconds),
): JobsSession {
  const store = createStore<JobsState>()(() => ({ jobs: [], notice: null, problem: null }))
  let taker: RunTaker | null = null
  let waiting = false
  let stopped = false

  const attempt = async (work: () => Promise<void>): Promise<void> => {
    try {
      await work()
      if (store.getState().problem) store.setState({ problem: null })
    } catch (error) {
      store.setState({
        problem: error instanceof ProblemError ? error.message : 'The server did not answer as it should.',
      })
    }
  }
  const look = () =>
    attempt(async () => {
      const { jobs, notice } = await server.list()
      if (stopped) return
      store.setState({ jobs, notice })
      for (const job of jobs) if (taker && job.environment.id === environment) await takeFrom(job.id, taker)
      if (jobs.some(({ state }) => state === 'active')) again()
    })
  const takeFrom = async (id: string, into: RunTaker) => {
    for (;;) {
      const { chunks, last, more } = await server.results(id, into.known(id))
      if (stopped) return
      if (chunks.length)
        into.take(
          id,
          last,
          chunks.map(({ key, runs }) => ({ key, runs: decodeRuns(runs) })),
        )
      if (!more) return
    }
  }
  const again = () => {
    if (waiting || stopped) return
    waiting = true
    later(() => {
      waiting = false
      if (!stopped) void look()
    }, PAUSE)
  }
  return {
    store,
    watch(wanted = null) {
      stopped = false
      taker = wanted ?? taker
      return look()
    },
    submit: (comparison, document) =>
      attempt(async () => {
        await server.submit(environment, comparison, document)
        await look()
      }),
    change: (id, change) =>
      attempt(async () => {
        await server.change(id, change)
        await look()
      }),
    remove: (id) =>
      attempt(async () => {
        await server.remove(id)
        await look()
      }),
    stop() {
      stopped = true
    },
  }
}
