import { availableParallelism } from 'node:os'
import { Worker as QueueWorker } from 'bullmq'
import { encodeRuns } from '../../core/compare/runs-text'
import { createRunPool, programOf } from '../../hosts/node/run-pool'
import { ProblemError } from '../../core/problem'
import { connect, PROBLEM, PROGRAM_KEY, queueName, SILENCE, type QueuedChunk } from './queue'

/** Seconds between two looks at which program the server wants. */
const LOOKING = 5

/**
 * Takes chunks from the queue on every core of this machine until it is stopped.
 * @param file  the bundle of runs.worker.ts
 * @returns what is wrong, when it gives up
 */
export async function work(address: string, file: string, say: (text: string) => void): Promise<string> {
  const program = programOf(file)
  const threads = Number(process.env.JAUNTY_PAWN_CORES) || availableParallelism()
  const connection = connect(address)
  const wrong = async (): Promise<string | null> => {
    const wanted = await connection.get(PROGRAM_KEY)
    return wanted === null || wanted === program
      ? null
      : `The server runs the program ${wanted}, this worker is ${program}: their runs would not be the same bits. Bring both to the same version and start the worker again.`
  }
  const refused = await wrong()
  if (refused) {
    connection.disconnect()
    return refused
  }
  const pool = createRunPool(file, threads)
  const worker = new QueueWorker<QueuedChunk, string>(
    queueName(program),
    async ({ data }) => {
      try {
        return encodeRuns(await pool.run(data.chunk, 0))
      } catch (error) {
        throw new Error(`${error instanceof ProblemError ? PROBLEM : ''}${(error as Error).message}`)
      }
    },
    {
      connection: connect(address),
      concurrency: threads,
      lockDuration: SILENCE * 1000,
      stalledInterval: (SILENCE / 2) * 1000,
      // A chunk is lost with every machine that dies: it is worth trying again.
      maxStalledCount: 100,
    },
  )
  worker.on('error', () => {})
  let played = 0
  worker.on('completed', () => {
    played++
    if (played % 100 === 0) say(`${played} chunks played`)
  })
  say(`Program ${program} takes chunks on ${threads} cores.`)
  const stop = new Promise<string>((resolve) => {
    const timer = setInterval(() => {
      void wrong().then((reason) => {
        if (reason) resolve(reason)
      })
    }, LOOKING * 1000)
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => {
        clearInterval(timer)
        resolve('')
      })
  })
  const reason = await stop
  // What is being played is finished first.
  await worker.close()
  await pool.close()
  connection.disconnect()
  return reason
}
