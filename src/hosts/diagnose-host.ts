import { diagnose } from '../core/diagnose/diagnose'
import { failure, type Clock, type Host, type Post } from './host'
import type { DiagnoseReply, DiagnoseRequest } from './protocol/diagnose'

/** Between two reports of progress, in milliseconds. */
const REPORT = 100

/** Looks for what is wrong with a run, in one go: who no longer wants it closes the worker. */
export class DiagnoseHost implements Host<DiagnoseRequest> {
  private constructor(
    private readonly post: Post<DiagnoseReply>,
    private readonly clock: Clock,
  ) {}

  static readonly create = (post: Post<DiagnoseReply>, clock: Clock) => new DiagnoseHost(post, clock)

  hear({ session, ask }: DiagnoseRequest): void {
    try {
      let told = this.clock.now()
      const report = diagnose(ask, (done, of) => {
        if (this.clock.now() < told + REPORT) return
        told = this.clock.now()
        this.post({ type: 'progress', session, done, of })
      })
      this.post({ type: 'diagnosed', session, report })
    } catch (error) {
      this.post(failure(session, error))
    }
  }
}
