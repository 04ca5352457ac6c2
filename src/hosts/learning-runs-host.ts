import { PlayerShelf } from '../core/compare/player-shelf'
import { failure, type Host, type Post } from './host'
import type { LearningRunsReply, LearningRunsRequest } from './protocol/learning-runs'

/** Plays runs of agents that learn as they are asked for. */
export class LearningRunsHost implements Host<LearningRunsRequest> {
  private opened: Extract<LearningRunsRequest, { type: 'open' }> | undefined
  private players = new PlayerShelf()

  private constructor(private readonly post: Post<LearningRunsReply>) {}

  static readonly create = (post: Post<LearningRunsReply>) => new LearningRunsHost(post)

  hear(request: LearningRunsRequest): void {
    const session = request.type === 'open' ? request.session : (this.opened?.session ?? 0)
    try {
      if (request.type === 'open') {
        this.opened = request
        this.players = new PlayerShelf()
        return
      }
      const { task, from, to } = request
      const runs = this.players.get(String(task), this.opened!.tasks[task])
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
