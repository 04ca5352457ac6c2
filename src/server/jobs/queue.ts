import { Redis } from 'ioredis'
import { ProblemError } from '../../core/problem'
import type { ChunkRequest } from '../../hosts/node/play-chunk'

/** What stands in the queue. */
export interface QueuedChunk {
  /** The program that must play it. */
  readonly program: string
  readonly chunk: ChunkRequest
}

/** Under this key the server says which program its chunks are for. */
export const PROGRAM_KEY = 'jaunty-pawn:program'

/** The queue of a program: workers of another one never see its chunks. */
export function queueName(program: string): string {
  return `jaunty-pawn-runs-${program}`
}

/** What is wrong with an environment itself, and would be every time, comes back from workers with this in front. */
export const PROBLEM = 'PROBLEM '

/** Seconds without word from a worker after which its chunk is taken by another one. */
export const SILENCE = 10

/** @throws ProblemError for what is no address of a Redis server */
export function connect(address: string): Redis {
  if (!/^rediss?:\/\/[^\s]+$/.test(address))
    throw new ProblemError([
      {
        place: 'JAUNTY_PAWN_QUEUE',
        cause: `"${address}" is not the address of a Redis server.`,
        remedy: 'Write redis://HOST:6379, or leave it out to work on this machine alone.',
      },
    ])
  // It waits for the server, however long that takes: chunks are not lost meanwhile.
  const redis = new Redis(address, { maxRetriesPerRequest: null, retryStrategy: () => 1000 })
  let told = false
  redis.on('error', (error: Error) => {
    if (!told) console.error(`The queue does not answer: ${error.message}. Trying again every second.`)
    told = true
  })
  redis.on('ready', () => {
    if (told) console.error('The queue answers again.')
    told = false
  })
  return redis
}
