import { Piscina } from 'piscina'
import { ProblemError, refuse } from '../../core/problem'
import {
  DOCUMENT_TASKS,
  type DocumentTaskInput,
  type DocumentTaskOutput,
  type DocumentTask,
} from './document-tasks'
import type { DocumentTaskAnswer, DocumentTaskRequest } from './documents.worker'

/** Where documents that people send are looked at. */
export interface DocumentWorkers {
  /**
   * @throws ProblemError for what is wrong with the document, or when it takes too long or too much room
   */
  do<T extends DocumentTask>(task: T, input: DocumentTaskInput<T>): Promise<DocumentTaskOutput<T>>
}

/** Looks at them at once and in this very thread: for tests, and for documents of our own. */
export const DIRECT_WORKERS: DocumentWorkers = {
  do: async (task, input) => (DOCUMENT_TASKS[task] as (input: never) => never)(input as never),
}

/** What a thread may take, in megabytes. */
const ROOM = 1024

/** Threads for documentWorkers. */
export type DocumentThreads = Piscina<DocumentTaskRequest, DocumentTaskAnswer>

/** How much what has time gives way to what somebody waits for, as the system counts it (0 to 19). */
const GIVES_WAY = 10

/**
 * @param file     the bundle of `documents.worker.ts`
 * @param patient  whether what they do has time: on a busy machine all else goes first
 * @param room     megabytes that a thread may take
 */
export function createDocumentThreads(
  file: string,
  threads: number,
  { patient = false, room = ROOM }: { readonly patient?: boolean; readonly room?: number } = {},
): DocumentThreads {
  return new Piscina<DocumentTaskRequest, DocumentTaskAnswer>({
    filename: file,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30_000,
    niceIncrement: patient ? GIVES_WAY : 0,
    resourceLimits: { maxOldGenerationSizeMb: room },
  })
}

/**
 * Workers in threads beside the one that serves.
 * @param patience  milliseconds after which a task is given up, and its thread with it
 */
export function createDocumentWorkers(pool: DocumentThreads, patience: number): DocumentWorkers {
  return {
    async do<T extends DocumentTask>(task: T, input: DocumentTaskInput<T>) {
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
      return answer.output as DocumentTaskOutput<T>
    },
  }
}

function tooMuch(cause: string): never {
  return refuse('document', cause, 'Make it smaller, or work on the file with the command line.')
}
