import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { Piscina } from 'piscina'
import type { LearningRun } from '../../core/compare/learning-runs'
import { PROGRAM } from '../../core/program'
import { ProblemError } from '../../core/problem'
import type { ChunkAnswer, ChunkRequest } from './play-chunk'

/** What plays chunks, wherever that is. */
export interface ChunkRunner {
  /** How many chunks it takes at once. */
  readonly slots: number
  /** @param priority  of its job, where chunks queue up: larger ones come first */
  run(chunk: ChunkRequest, priority: number): Promise<readonly LearningRun[]>
  close(): Promise<void>
}

/** Threads of this process, one a core. @param file  the bundle of `runs.worker.ts` */
export function createRunPool(file: string, threads = availableParallelism()): ChunkRunner {
  const pool = new Piscina<ChunkRequest, ChunkAnswer>({
    filename: file,
    maxThreads: threads,
    // Threads end when there is nothing to do: the page is served by the same process.
    idleTimeout: 30_000,
  })
  return {
    slots: threads,
    async run(chunk) {
      const answer = await pool.run(chunk)
      if ('problems' in answer) throw new ProblemError(answer.problems)
      return answer.runs
    },
    close: () => pool.destroy(),
  }
}

/**
 * The program that plays runs: its version and a part of the hash of its bundle. Two that are the same give the same bits.
 */
export function programOf(file: string): string {
  return `${PROGRAM}-${createHash('sha256').update(readFileSync(file)).digest('hex').slice(0, 12)}`
}
