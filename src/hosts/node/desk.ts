import { Piscina } from 'piscina'
import { ProblemError, refuse } from '../../core/problem'
import { DESK_TASKS, type DeskInput, type DeskOutput, type DeskTask } from './desk-tasks'
import type { DeskAnswer, DeskRequest } from './desk.worker'

/** Where documents that people send are looked at. */
export interface Desk {
  /**
   * @throws ProblemError for what is wrong with the document, or when it takes too long or too much room
   */
  do<T extends DeskTask>(task: T, input: DeskInput<T>): Promise<DeskOutput<T>>
}

/** Looks at them at once and in this very thread: for tests, and for documents of our own. */
export const DIRECT_DESK: Desk = {
  do: async (task, input) => (DESK_TASKS[task] as (input: never) => never)(input as never),
}

/** What a thread may take, in megabytes. */
const ROOM = 1024

/** Threads for desks. */
export type DeskPool = Piscina<DeskRequest, DeskAnswer>

/**
 * @param file  the bundle of `desk.worker.ts`
 * @param room  megabytes that a thread may take
 */
export function createDeskPool(file: string, threads: number, room = ROOM): DeskPool {
  return new Piscina<DeskRequest, DeskAnswer>({
    filename: file,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: room },
  })
}

/**
 * A desk of threads beside the one that serves.
 * @param patience  milliseconds after which a task is given up, and its thread with it
 */
export function createDesk(pool: DeskPool, patience: number): Desk {
  return {
    async do<T extends DeskTask>(task: T, input: DeskInput<T>) {
      const answer = await pool
        .run({ task, input }, { signal: AbortSignal.timeout(patience) })
        .catch((error: Error & { code?: string }) => {
          if (error.name === 'AbortError' || error.name === 'TimeoutError')
            return tooMuch(`The server gave up on it after ${patience / 1000} s.`)
          if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
            return tooMuch('It takes more memory than the server gives to one.')
          throw error
        })
      if ('problems' in answer) throw new ProblemError(answer.problems)
      return answer.output as DeskOutput<T>
    },
  }
}

function tooMuch(cause: string): never {
  return refuse('document', cause, 'Make it smaller, or work on the file with the command line.')
}
