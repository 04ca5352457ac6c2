/**
 * What pages and workers say to each other. Every message of a session carries its number; a page drops what
 * belongs to an older one. After a frame a worker waits for `shown` before it sends the next, so that a slow page
 * is never flooded; it goes on computing meanwhile.
 */

/** How fast to go: so many a second, or as fast as it can. */
export type Speed = number | 'flat out'

/** Something that should not happen did; the session is over. */
export interface HostFailure {
  readonly type: 'failed'
  readonly session: number
  readonly message: string
}
