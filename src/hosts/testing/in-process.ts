import { fromWire, toWire } from '../wire'
import { REAL_CLOCK, type Clock, type Host, type Post } from '../host'

/** A host in this very thread, joined as a worker would be: messages are copied, and answered later. */
export function inProcess<Request, Reply>(
  create: (post: Post<Reply>, clock: Clock) => Host<Request>,
): () => {
  post(request: Request): void
  listen(listener: (reply: Reply) => void): void
  close(): void
} {
  return () => {
    let listener: (reply: Reply) => void = () => {}
    let closed = false
    const host = create((reply) => {
      const copy = fromWire(structuredClone(toWire(reply))) as Reply
      setTimeout(() => {
        if (!closed) listener(copy)
      })
    }, REAL_CLOCK)
    return {
      post(request) {
        const copy = fromWire(structuredClone(toWire(request))) as Request
        setTimeout(() => {
          if (!closed) host.hear(copy)
        })
      },
      listen: (heard) => void (listener = heard),
      close: () => void (closed = true),
    }
  }
}

/** Waits until a store holds something. @throws after five seconds */
export async function holds<T>(
  store: { getState(): T; subscribe(listener: () => void): () => void },
  what: (state: T) => boolean,
): Promise<T> {
  if (what(store.getState())) return store.getState()
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      stop()
      reject(new Error('It never came to hold.'))
    }, 5000)
    const stop = store.subscribe(() => {
      if (!what(store.getState())) return
      clearTimeout(timer)
      stop()
      resolve(store.getState())
    })
  })
}
