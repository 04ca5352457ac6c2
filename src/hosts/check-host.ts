import { checkEnvironmentModel } from '../core/check/check'
import { sampleWorld } from '../core/check/sampling'
import { World } from '../core/learn/world'
import { failure, nowAndThen, type Clock, type Host, type Post } from './host'
import type { CheckReply, CheckRequest } from './protocol/check'

/** Checks environments, each in one go: who no longer wants it closes the worker. */
export class CheckHost implements Host<CheckRequest> {
  private constructor(
    private readonly post: Post<CheckReply>,
    private readonly clock: Clock,
  ) {}

  static readonly create = (post: Post<CheckReply>, clock: Clock) => new CheckHost(post, clock)

  hear(request: CheckRequest): void {
    const { session } = request
    try {
      if (request.type === 'sample') {
        const sampling = sampleWorld(new World(request.model), request.settings)
        this.post({ type: 'sampled', session, sampling })
        return
      }
      const { document, compiled } = request
      const tell = nowAndThen(this.clock, (done, of) => this.post({ type: 'progress', session, done, of }))
      const report = checkEnvironmentModel(document, compiled, tell)
      this.post({ type: 'checked', session, report })
    } catch (error) {
      this.post(failure(session, error))
    }
  }
}
