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
  close(): Promise<void>
}

/** Looks at them at once and in this very thread: for tests, and for documents of our own. */
export const DIRECT_DESK: Desk = {
  do: async (task, input) => (DESK_TASKS[task] as (input: never) => never)(input as never),
  close: async () => {},
}

/** What a thread may take, in megabytes. */
const ROOM = 1024

/**
 * A desk of threads beside the one that serves.
 * @param file  the bundle of `desk.worker.ts`
 * @param patience  milliseconds after which a task is given up, and its thread with it
 */
export function createDesk(file: string, threads: number, patience: number): Desk {
  const pool = new Piscina<DeskRequest, DeskAnswer>({
    filename: file,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: ROOM },
  })
  return {
    async do<T extends DeskTask>(task: T, input: DeskInput<T>) {
      let answer: DeskAnswer
      try {
        answer = await pool.run({ task, input }, { signal: AbortSignal.timeout(patience) })
      } catch (error) {
        const { name, code } = error as Error & { code?: string }
        if (name === 'AbortError' || name === 'TimeoutError')
          return refuse(
            'document',
            `The server gave up on it after ${patience / 1000} s.`,
            'Make it smaller, or work on the file with the command line.',
          )
        if (code === 'ERR_WORKER_OUT_OF_MEMORY')
          return refuse(
            'document',
            `It takes more than ${ROOM} MB.`,
            'Make it smaller, or work on the file with the command line.',
          )
        throw error
      }
      if ('problems' in answer) throw new ProblemError(answer.problems)
      return answer.output as DeskOutput<T>
    },
    close: () => pool.destroy(),
  }
}
