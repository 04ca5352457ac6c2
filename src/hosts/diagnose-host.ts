import { diagnose } from '../core/diagnose/diagnose'
import { failure, nowAndThen, type Clock, type Host, type Post } from './host'
import type { DiagnoseReply, DiagnoseRequest } from './protocol/diagnose'

/** Looks for what is wrong with a run, in one go: who no longer wants it closes the worker. */
export class DiagnoseHost implements Host<DiagnoseRequest> {
  private constructor(
    private readonly post: Post<DiagnoseReply>,
    private readonly clock: Clock,
  ) {}

  static readonly create = (post: Post<DiagnoseReply>, clock: Clock) => new DiagnoseHost(post, clock)

  hear({ session, ask }: DiagnoseRequest): void {
    try {
      const tell = nowAndThen(this.clock, (done, of) => this.post({ type: 'progress', session, done, of }))
      const report = diagnose(ask, tell)
      this.post({ type: 'diagnosed', session, report })
    } catch (error) {
      this.post(failure(session, error))
    }
  }
}
