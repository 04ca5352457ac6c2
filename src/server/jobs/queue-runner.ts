import { createHash } from 'node:crypto'
import { Queue, QueueEvents } from 'bullmq'
import { decodeRuns } from '../../core/compare/runs-text'
import { ProblemError } from '../../core/problem'
import type { ChunkRequest } from '../../hosts/node/play-chunk'
import type { ChunkRunner } from '../../hosts/node/run-pool'
import { connect, PROBLEM, PROGRAM_KEY, queueName, type QueuedChunk } from './queue'

/** Chunks that stand in the queue at once: enough for a hundred cores, few enough to be taken back. */
const SLOTS = 256
/** Seconds for which a result stays in the queue: a server that was restarted finds it there. */
const KEPT = 3600
/** Seconds between two words to workers which program is wanted. */
const TELLING = 10

/** Puts chunks on a queue from which any number of machines take them. @param address  redis://HOST:PORT */
export function createQueueRunner(
  address: string,
  program: string,
): { readonly runner: ChunkRunner; notice(): Promise<string | null> } {
  const connection = connect(address)
  const events = new QueueEvents(queueName(program), { connection: connect(address) })
  events.setMaxListeners(0)
  const queue = new Queue<QueuedChunk, string>(queueName(program), { connection })
  // Every chunk that is waited for listens.
  queue.setMaxListeners(0)
  const tell = () => void connection.set(PROGRAM_KEY, program, 'EX', 6 * TELLING).catch(() => {})
  tell()
  const timer = setInterval(tell, TELLING * 1000)
  timer.unref()
  return {
    runner: {
      slots: SLOTS,
      async run(chunk, priority) {
        const job = await queue.add(
          'chunk',
          { program, chunk },
          {
            jobId: idOf(program, chunk),
            // There the smallest comes first.
            priority: 1000 - priority,
            removeOnComplete: { age: KEPT },
            removeOnFail: true,
          },
        )
        try {
          return decodeRuns(await job.waitUntilFinished(events))
        } catch (error) {
          throw unmarked(error)
        }
      },
      async close() {
        clearInterval(timer)
        await Promise.all([queue.close(), events.close()])
      },
    },
    async notice() {
      if (connection.status !== 'ready')
        return 'The queue does not answer: nothing can go on until the Redis server is there again.'
      return (await queue.getWorkersCount()) === 0
        ? 'No worker takes chunks from the queue: start one with npm run worker.'
        : null
    },
  }
}

/** The same for the same runs: a chunk that is asked for twice stands in the queue once. */
function idOf(program: string, { key, task, from, to }: ChunkRequest): string {
  return createHash('sha256')
    .update(JSON.stringify([program, key, task.ask, from, to]))
    .digest('hex')
    .slice(0, 32)
}

/** Workers mark what is wrong with the environment itself, see `worker.ts`. */
function unmarked(error: unknown): unknown {
  const message = error instanceof Error ? error.message : String(error)
  return message.startsWith(PROBLEM)
    ? new ProblemError([{ place: 'environment', cause: message.slice(PROBLEM.length), remedy: '' }])
    : error
}
