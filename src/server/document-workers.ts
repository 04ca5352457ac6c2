import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import {
  createDocumentWorkers,
  createDocumentThreads,
  DIRECT_WORKERS,
  type DocumentWorkers,
  type DocumentThreads,
} from '../hosts/node/document-workers'

/** What the threads run: made by scripts/workers.mjs when the server starts. */
const WORKER = join(process.cwd(), '.workers', 'documents.mjs')
/** How long somebody waits for a document of theirs to be looked at, in milliseconds. */
const WAITING = 60_000
/** How long it may take to score what a student hands in, in milliseconds. */
const SCORING = 20_000
/** How long it may take to count the states of one, in milliseconds. */
const COUNTING = 5_000

interface WorkersOfServer {
  /** For what somebody waits for. */
  readonly urgent: DocumentWorkers
  /** For what has time. */
  readonly patient: DocumentWorkers
  /** For what students hand in: however heavy it is, nobody else waits for it. */
  readonly scoring: DocumentWorkers
}

// Next.js loads server modules more than once: the process has one set of threads all the same. Workers are made anew, so
// that what they throw is of the caller's own classes.
const shared = globalThis as {
  jauntyPawnDocumentThreads?: {
    readonly urgent: DocumentThreads
    readonly patient: DocumentThreads
    readonly scoring: DocumentThreads
  }
}

/** Where this process looks at documents: in threads once the server has begun, before that (as in tests) at once. */
export function documentWorkers(): WorkersOfServer {
  const pools = shared.jauntyPawnDocumentThreads
  return pools
    ? {
        urgent: createDocumentWorkers(pools.urgent, WAITING),
        patient: createDocumentWorkers(pools.patient, COUNTING),
        scoring: createDocumentWorkers(pools.scoring, SCORING),
      }
    : { urgent: DIRECT_WORKERS, patient: DIRECT_WORKERS, scoring: DIRECT_WORKERS }
}

/** @param cores  threads for what somebody waits for; as many as the machine has cores, but two at least, when left out */
export function startDocumentWorkers(cores = Math.max(2, availableParallelism())): void {
  shared.jauntyPawnDocumentThreads ??= {
    urgent: createDocumentThreads(WORKER, cores),
    patient: createDocumentThreads(WORKER, 1, { patient: true }),
    scoring: createDocumentThreads(WORKER, 1, { patient: true }),
  }
}

export async function stopDocumentWorkers(): Promise<void> {
  const pools = shared.jauntyPawnDocumentThreads
  shared.jauntyPawnDocumentThreads = undefined
  await Promise.all(Object.values(pools ?? {}).map((each) => each.destroy()))
}
