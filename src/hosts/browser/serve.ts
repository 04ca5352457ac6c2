import { fromWire, toWire } from '../wire'
import { REAL_CLOCK, type Clock, type Host, type Post } from '../host'

/** Lets a host answer in this worker. */
export function serve<Request, Reply>(create: (post: Post<Reply>, clock: Clock) => Host<Request>): void {
  const scope = self as unknown as { postMessage(reply: unknown, transfer?: Transferable[]): void }
  const host = create((reply, transfer) => scope.postMessage(toWire(reply), transfer ?? []), REAL_CLOCK)
  self.onmessage = ({ data }: MessageEvent) => host.hear(fromWire(data) as Request)
}
