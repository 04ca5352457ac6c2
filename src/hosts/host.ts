import type { HostFailure } from './protocol/common'

/** Sends a reply; what is in `transfer` is given away and no longer there afterwards. */
export type Post<Reply> = (reply: Reply, transfer?: Transferable[]) => void

/** The time, and work that is put off; tests bring their own. */
export interface Clock {
  /** Milliseconds since some moment. */
  now(): number
  later(work: () => void, milliseconds: number): void
}

/** What does the work of a stage, wherever it runs: it hears requests and posts replies. */
export interface Host<Request> {
  hear(request: Request): void
}

export const REAL_CLOCK: Clock = {
  now: () => performance.now(),
  later: (work, milliseconds) => void setTimeout(work, milliseconds),
}

/** Lets others have their turn. */
export function pause(clock: Clock): Promise<void> {
  return new Promise((resolve) => clock.later(resolve, 0))
}

/** Between two reports of progress, in milliseconds. */
const REPORT = 100

/** Tells how far work is, but not more often than people can read. */
export function nowAndThen(clock: Clock, tell: (done: number, of: number) => void): typeof tell {
  let told = clock.now()
  return (done, of) => {
    if (clock.now() < told + REPORT) return
    told = clock.now()
    tell(done, of)
  }
}

/** The reply to what should not have happened. */
export function failure(session: number, error: unknown): HostFailure {
  return { type: 'failed', session, message: error instanceof Error ? error.message : String(error) }
}
