import { playTrials } from '../core/evaluate/rollout'
import { World } from '../core/learn/world'
import { solveOptimum } from '../core/plan/solve'
import { failure, type Host, type Post } from './host'
import type { TrialsReply, TrialsRequest } from './protocol/trials'

/** Plays episodes of several policies without learning, one policy after the other. */
export class TrialsHost implements Host<TrialsRequest> {
  private constructor(private readonly post: Post<TrialsReply>) {}

  static readonly create = (post: Post<TrialsReply>) => new TrialsHost(post)

  hear({ session, model, contestants, settings, measures }: TrialsRequest): void {
    try {
      const world = new World(model)
      for (const { title, policy } of contestants) {
        const followed = policy ?? solveOptimum(model, settings.discount)?.ties
        if (followed)
          this.post({
            type: 'trials',
            session,
            title,
            policy: followed,
            trials: playTrials(world, followed, settings, measures),
          })
      }
      this.post({ type: 'finished', session })
    } catch (error) {
      this.post(failure(session, error))
    }
  }
}
