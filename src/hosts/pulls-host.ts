import { createPullPlayer } from '../core/compare/pull-players'
import type { PullPlayer } from '../core/compare/pull-task'
import { failure, type Host, type Post } from './host'
import type { PullsReply, PullsRequest } from './protocol/pulls'

/** Pulls of the players that are kept at the most: each has tables as long as its runs. */
const KEPT_PULLS = 2_000_000

/** Plays runs of bandit agents as they are asked for. */
export class PullsHost implements Host<PullsRequest> {
  private opened: Extract<PullsRequest, { type: 'open' }> | undefined
  private readonly players = new Map<number, PullPlayer>()
  private pulls = 0

  private constructor(private readonly post: Post<PullsReply>) {}

  static readonly create = (post: Post<PullsReply>) => new PullsHost(post)

  hear(request: PullsRequest): void {
    const session = request.type === 'open' ? request.session : (this.opened?.session ?? 0)
    try {
      if (request.type === 'open') {
        this.opened = request
        this.forget()
        return
      }
      const player = this.playerOf(request.task)
      for (let run = request.from; run < request.to; run++) player.play(run)
      const { task, from } = request
      this.post({ type: 'played', session, task, from, sums: player.take() })
    } catch (error) {
      this.post(failure(session, error))
    }
  }

  private playerOf(number: number): PullPlayer {
    const known = this.players.get(number)
    if (known) return known
    const task = this.opened!.tasks[number]
    if (this.pulls + task.pulls > KEPT_PULLS) this.forget()
    const player = createPullPlayer(task)
    this.players.set(number, player)
    this.pulls += task.pulls
    return player
  }

  private forget(): void {
    this.players.clear()
    this.pulls = 0
  }
}
