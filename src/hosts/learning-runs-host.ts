import { LearningRuns } from '../core/compare/learning-runs'
import { failure, type Host, type Post } from './host'
import type { LearningRunsReply, LearningRunsRequest } from './protocol/learning-runs'

/** Plays runs of agents that learn as they are asked for. */
export class LearningRunsHost implements Host<LearningRunsRequest> {
  private opened: Extract<LearningRunsRequest, { type: 'open' }> | undefined
  /** The contestant whose model is at hand: large ones are not kept for all. */
  private player: { readonly task: number; readonly runs: LearningRuns } | undefined

  private constructor(private readonly post: Post<LearningRunsReply>) {}

  static readonly create = (post: Post<LearningRunsReply>) => new LearningRunsHost(post)

  hear(request: LearningRunsRequest): void {
    const session = request.type === 'open' ? request.session : (this.opened?.session ?? 0)
    try {
      if (request.type === 'open') {
        this.opened = request
        this.player = undefined
        return
      }
      const { task, from, to } = request
      if (this.player?.task !== task) this.player = { task, runs: new LearningRuns(this.opened!.tasks[task]) }
      const { runs } = this.player
      this.post({
        type: 'played',
        session,
        task,
        runs: Array.from({ length: to - from }, (_, i) => runs.play(from + i)),
      })
    } catch (error) {
      this.post(failure(session, error))
    }
  }
}
