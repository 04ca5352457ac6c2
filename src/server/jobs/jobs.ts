import { join } from 'node:path'
import { createRunPool, programOf, type ChunkRunner } from '../../hosts/node/run-pool'
import { database } from '../db/database'
import { JobEngine } from './engine'

/** What the threads run: made by scripts/workers.mjs when the server starts. */
const WORKER = join(process.cwd(), '.workers', 'runs.mjs')

interface Jobs {
  readonly engine: JobEngine
  /** What keeps all jobs from going on, in words; null where nothing does. */
  notice(): Promise<string | null>
}

// Next.js loads server modules more than once; the process has one engine all the same.
const shared = globalThis as { jauntyPawnJobs?: Promise<Jobs> }

/** The jobs of this process; begun with first use. */
export function jobs(): Promise<Jobs> {
  shared.jauntyPawnJobs ??= start()
  return shared.jauntyPawnJobs
}

/** Hands out nothing more, if any was; what is missing goes on with the next start. */
export async function stopJobs(): Promise<void> {
  const started = await shared.jauntyPawnJobs?.catch(() => undefined)
  await started?.engine.stop()
}

async function start(): Promise<Jobs> {
  const program = programOf(WORKER)
  const { runner, notice } = await runnerOf(program)
  const engine = new JobEngine(await database(), runner, program)
  await engine.resume()
  return { engine, notice }
}

/** Threads of this process, or the queue that JAUNTY_PAWN_QUEUE names. */
async function runnerOf(
  program: string,
): Promise<{ readonly runner: ChunkRunner; readonly notice: Jobs['notice'] }> {
  const queue = process.env.JAUNTY_PAWN_QUEUE
  if (!queue) return { runner: createRunPool(WORKER), notice: async () => null }
  const { createQueueRunner } = await import('./queue-runner')
  return createQueueRunner(queue, program)
}
