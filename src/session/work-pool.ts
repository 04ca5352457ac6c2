import type { Connection } from '../hosts/browser/launcher'

/** A reply of a worker that belongs to one of several sessions. */
interface PoolReply {
  readonly type: string
  readonly session: number
}

/** Jobs that are done by as many workers as there are cores. */
export interface PoolWork<Request, Reply extends PoolReply> {
  /** What each worker hears first. @param session  the number that replies must bear */
  open(session: number): Request
  /** In the order in which they are handed out. */
  readonly jobs: readonly Request[]
  /** A job is done. */
  take(reply: Exclude<Reply, { type: 'failed' }>): void
  /** All of them are. */
  finish(): void
  /** One of them, or a worker, failed; the others were stopped. */
  fail(message: string): void
}

/** Hands jobs out to workers, one to each at a time. Knows no page. */
export class WorkPool<Request, Reply extends PoolReply> {
  private connections: Connection<Request, Reply>[] = []
  private session = 0

  constructor(
    private readonly cores: () => number,
    private readonly startWorker: () => Connection<Request, Reply>,
  ) {}

  /** Gives up whatever goes on. */
  stop(): void {
    for (const connection of this.connections) connection.close()
    this.connections = []
    this.session++
  }

  /** Begins with other work; what went on before is given up. */
  start(work: PoolWork<Request, Reply>): void {
    this.stop()
    const mine = this.session
    const { jobs } = work
    let next = 0
    let left = jobs.length
    if (left === 0) return work.finish()
    const fail = (message: string) => {
      if (mine !== this.session) return
      this.stop()
      work.fail(message)
    }
    this.connections = Array.from({ length: Math.max(1, Math.min(left, this.cores())) }, () => {
      const connection = this.startWorker()
      const more = () => {
        if (next < jobs.length) connection.post(jobs[next++])
      }
      connection.listen(
        (reply) => {
          if (reply.session !== mine || mine !== this.session) return
          if (reply.type === 'failed') return fail((reply as unknown as { message: string }).message)
          more()
          left--
          work.take(reply as Exclude<Reply, { type: 'failed' }>)
          if (left > 0 || mine !== this.session) return
          this.stop()
          work.finish()
        },
        () => fail('The computation failed.'),
      )
      connection.post(work.open(mine))
      more()
      return connection
    })
  }
}
