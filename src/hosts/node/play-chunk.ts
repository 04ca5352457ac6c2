import { LearningRuns, type LearningRun, type LearningTask } from '../../core/compare/learning-runs'

/** Runs that a worker of the server, or of another machine, is asked for. */
export interface ChunkRequest {
  /** What makes runs of this task the same, see `runKey`. */
  readonly key: string
  readonly task: LearningTask
  /** The first run, and the one after the last. */
  readonly from: number
  readonly to: number
}

/** The contestant whose model is at hand: large ones are not kept for all. */
let player: { readonly key: string; readonly task: string; readonly runs: LearningRuns } | undefined

/** Plays the runs of a chunk, in this thread. @throws ProblemError for an environment that does not compile */
export function playChunk({ key, task, from, to }: ChunkRequest): LearningRun[] {
  const asked = JSON.stringify(task.ask)
  if (player?.key !== key || player.task !== asked)
    player = { key, task: asked, runs: new LearningRuns(task) }
  const { runs } = player
  return Array.from({ length: to - from }, (_, i) => runs.play(from + i))
}
