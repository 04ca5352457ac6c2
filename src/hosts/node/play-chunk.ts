import type { LearningRun, LearningTask } from '../../core/compare/learning-runs'
import { PlayerShelf } from '../../core/compare/player-shelf'
import { ProblemError, type Problem } from '../../core/problem'

/** Runs that a worker of the server, or of another machine, is asked for. */
export interface ChunkRequest {
  /** What makes runs of this task the same, see `runKey`. */
  readonly key: string
  readonly task: LearningTask
  /** The first run, and the one after the last. */
  readonly from: number
  readonly to: number
}

const players = new PlayerShelf()

/** What a thread answers: errors lose what they are on their way, so that problems of the input are told apart here. */
export type ChunkAnswer =
  { readonly runs: readonly LearningRun[] } | { readonly problems: readonly Problem[] }

/** The answer of a thread to a chunk. */
export function answerChunk(request: ChunkRequest): ChunkAnswer {
  try {
    return { runs: playChunk(request) }
  } catch (error) {
    if (error instanceof ProblemError) return { problems: error.problems }
    throw error
  }
}

/** Plays the runs of a chunk, in this thread. @throws ProblemError for an environment that does not compile */
export function playChunk({ key, task, from, to }: ChunkRequest): LearningRun[] {
  const runs = players.get(`${key} ${JSON.stringify(task.ask)}`, task)
  return Array.from({ length: to - from }, (_, i) => runs.play(from + i))
}
