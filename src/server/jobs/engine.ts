import { randomUUID } from 'node:crypto'
import { askOf, wantedContestants } from '../../core/compare/asked-runs'
import type { Comparison } from '../../core/compare/comparison'
import { checkComparison } from '../../core/compare/read-comparison'
import {
  chunksOf,
  chunkSize,
  plannedTasks,
  type PlannedTask,
  type RunChunk,
} from '../../core/compare/run-plan'
import { encodeRuns } from '../../core/compare/runs-text'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError, refuse } from '../../core/problem'
import type { ChunkRunner } from '../../hosts/node/run-pool'
import type { JobChange, JobState, JobSummary } from '../contract/jobs'
import type { Database } from '../db/schema'
import {
  countDone,
  deleteChunks,
  deleteJob,
  doneChunks,
  forgetOldJobs,
  insertChunk,
  insertJob,
  listJobs,
  openJobs,
  updateJob,
  type JobRow,
} from '../repositories/jobs'

/** Chunks of a job, about, at the most: handing one out costs the server some milliseconds. */
const MOST_CHUNKS = 2000
/** And at the least, where there are as many runs. */
const PARTS = 16
/** How often a chunk is tried, where the program itself fails and not the environment. */
const ATTEMPTS = 3
/** Runs of a job at the most: what it keeps grows with them. */
const MOST_RUNS = 200_000

/** A job that is at work, or could be. */
interface OpenJob {
  readonly id: string
  readonly createdAt: number
  readonly tasks: readonly PlannedTask[]
  readonly chunks: readonly RunChunk[]
  priority: number
  paused: boolean
  /** Numbers of chunks that nobody works on, the next one last. */
  readonly waiting: number[]
  readonly busy: Set<number>
  readonly attempts: Map<number, number>
  done: number
  /** What the chunks took that are done, in seconds. */
  seconds: number
}

/**
 * The work of the server: hands the chunks of jobs to a runner, the jobs with the highest priority first, and writes down
 * what comes back as it comes. Whatever happens to the process, a job goes on with the chunks that are missing.
 */
export class JobEngine {
  private readonly open = new Map<string, OpenJob>()
  private stopped = false

  constructor(
    private readonly db: Database,
    private readonly runner: ChunkRunner,
    /** The program that plays the runs, see `programOf`. */
    private readonly program: string,
  ) {}

  /** Goes on with the jobs that were open when the process ended. */
  async resume(): Promise<void> {
    for (const row of await openJobs(this.db)) {
      try {
        // Runs of two programs are not mixed: the job begins again.
        if (row.program !== this.program) {
          await deleteChunks(this.db, row.id)
          await updateJob(this.db, row.id, { program: this.program })
        }
        await this.take(row)
      } catch (error) {
        await this.finish(row.id, 'failed', messageOf(error))
      }
    }
    this.pump()
  }

  /**
   * Takes in the runs of a comparison.
   * @param document  the environment of its contestants that have none of their own
   * @throws ProblemError where there is nothing to run, or too much
   */
  async submit(
    environmentId: string,
    comparison: Comparison,
    document: EnvironmentDocument,
  ): Promise<string> {
    const { tasks, chunks, size } = workOf(comparison, document)
    if (chunks.length === 0)
      refuse('comparison', 'There is nothing to run.', 'Add a contestant that can be run, and show it.')
    const row: JobRow = {
      id: randomUUID(),
      environmentId,
      name: comparison.name,
      request: JSON.stringify({ ...comparison, environment: document }),
      state: 'active',
      priority: 0,
      chunks: chunks.length,
      chunkSize: size,
      program: this.program,
      message: null,
      createdAt: new Date(),
      finishedAt: null,
    }
    await insertJob(this.db, row)
    await forgetOldJobs(this.db)
    this.add(row, tasks, chunks, [])
    this.pump()
    return row.id
  }

  /** The latest jobs, the last one in front. */
  async list(): Promise<JobSummary[]> {
    const rows = await listJobs(this.db)
    const counts = await countDone(
      this.db,
      rows.map(({ id }) => id),
    )
    return rows.map((row) => {
      const job = this.open.get(row.id)
      const done = job?.done ?? counts.get(row.id) ?? 0
      const each = job && job.done > 0 ? job.seconds / job.done : null
      return {
        id: row.id,
        name: row.name,
        environment: { id: row.environmentId, name: row.environmentName },
        state: row.state as JobState,
        priority: row.priority,
        chunks: row.chunks,
        done,
        busy: job?.busy.size ?? 0,
        left: each === null ? null : (each * (row.chunks - done)) / this.runner.slots,
        message: row.message,
        program: row.program,
        createdAt: row.createdAt.toISOString(),
        finishedAt: row.finishedAt?.toISOString() ?? null,
      }
    })
  }

  /** @returns whether the job can be changed at all: one that is over cannot */
  async change(id: string, { state, priority }: JobChange): Promise<boolean> {
    const job = this.open.get(id)
    if (!job) return false
    if (priority !== undefined) {
      job.priority = priority
      await updateJob(this.db, id, { priority })
    }
    if (state === 'cancelled') await this.finish(id, 'cancelled', null)
    else if (state) {
      job.paused = state === 'paused'
      await updateJob(this.db, id, { state })
    }
    this.pump()
    return true
  }

  /** Gives a job up, if it is not over, and forgets what came of it. */
  async remove(id: string): Promise<void> {
    this.open.delete(id)
    await deleteJob(this.db, id)
    this.pump()
  }

  /** Hands out nothing more. */
  async stop(): Promise<void> {
    this.stopped = true
    await this.runner.close()
  }

  private async take(row: JobRow): Promise<void> {
    const comparison = checkComparison(JSON.parse(row.request))
    const { tasks, chunks } = workOf(comparison, comparison.environment!, row.chunkSize)
    this.add(row, tasks, chunks, await doneChunks(this.db, row.id))
    // It may have ended between its last chunk and the word of it.
    await this.finishIfDone(row.id)
  }

  private add(
    { id, priority, state, createdAt }: JobRow,
    tasks: readonly PlannedTask[],
    chunks: readonly RunChunk[],
    done: readonly { readonly number: number; readonly seconds: number }[],
  ): void {
    const known = new Set(done.map(({ number }) => number))
    this.open.set(id, {
      id,
      createdAt: createdAt.getTime(),
      tasks,
      chunks,
      priority,
      paused: state === 'paused',
      waiting: chunks
        .map((_, number) => number)
        .filter((number) => !known.has(number))
        .reverse(),
      busy: new Set(),
      attempts: new Map(),
      done: known.size,
      seconds: done.reduce((sum, { seconds }) => sum + seconds, 0),
    })
  }

  /** Hands out chunks as long as there is room. */
  private pump(): void {
    let busy = [...this.open.values()].reduce((sum, job) => sum + job.busy.size, 0)
    while (!this.stopped && busy < this.runner.slots) {
      const job = this.next()
      if (!job) return
      void this.play(job, job.waiting.pop()!)
      busy++
    }
  }

  /** The job whose turn it is: of the highest priority the oldest. */
  private next(): OpenJob | undefined {
    let best: OpenJob | undefined
    for (const job of this.open.values()) {
      if (job.paused || job.waiting.length === 0) continue
      if (
        !best ||
        job.priority > best.priority ||
        (job.priority === best.priority && job.createdAt < best.createdAt)
      )
        best = job
    }
    return best
  }

  private async play(job: OpenJob, number: number): Promise<void> {
    job.busy.add(number)
    const { task, from, to } = job.chunks[number]
    const { key, task: contestant } = job.tasks[task]
    const started = performance.now()
    try {
      const runs = await this.runner.run({ key, task: contestant, from, to }, job.priority)
      const seconds = (performance.now() - started) / 1000
      // It may have been given up meanwhile.
      if (this.open.get(job.id) === job) {
        await insertChunk(this.db, { jobId: job.id, number, key, runs: encodeRuns(runs), seconds })
        job.done++
        job.seconds += seconds
      }
    } catch (error) {
      if (!this.stopped) await this.failed(job, number, error)
    }
    job.busy.delete(number)
    if (this.stopped) return
    await this.finishIfDone(job.id)
    this.pump()
  }

  private async failed(job: OpenJob, number: number, error: unknown): Promise<void> {
    const attempts = (job.attempts.get(number) ?? 0) + 1
    job.attempts.set(number, attempts)
    // What is wrong with the environment is wrong every time.
    if (!(error instanceof ProblemError) && attempts < ATTEMPTS) job.waiting.push(number)
    else if (this.open.get(job.id) === job) await this.finish(job.id, 'failed', messageOf(error))
  }

  private async finishIfDone(id: string): Promise<void> {
    const job = this.open.get(id)
    if (job && job.done === job.chunks.length) await this.finish(id, 'done', null)
  }

  private async finish(id: string, state: JobState, message: string | null): Promise<void> {
    this.open.delete(id)
    await updateJob(this.db, id, { state, message, finishedAt: new Date() })
  }
}

/**
 * What there is to do for a comparison.
 * @param given  runs of a chunk, where that was settled before
 * @throws ProblemError where it is too much
 */
function workOf(
  comparison: Comparison,
  document: EnvironmentDocument,
  given?: number,
): { readonly tasks: PlannedTask[]; readonly chunks: RunChunk[]; readonly size: number } {
  const { runs } = comparison
  const tasks = plannedTasks(wantedContestants(comparison, document), document, askOf(comparison))
  if (tasks.length * runs > MOST_RUNS)
    refuse(
      'runs',
      `These are ${tasks.length * runs} runs together.`,
      `Ask for ${MOST_RUNS} at the most, in several jobs if need be.`,
    )
  const size =
    given ?? Math.max(Math.ceil((tasks.length * runs) / MOST_CHUNKS), chunkSize(tasks, runs, PARTS))
  return { tasks, chunks: chunksOf(tasks.length, runs, size), size }
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error)
}
