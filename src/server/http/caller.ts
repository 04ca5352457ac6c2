/** Who asks. */
export interface Caller {
  /** What they may do: so far everybody who reaches the server may read and change all that is there. */
  readonly role: 'instructor'
}

/** Who sent a request. */
export function callerOf(_request: Request): Caller {
  return { role: 'instructor' }
}
