/** What somebody who asks may be; one may be several at once. */
export type Role =
  /** Everybody who reaches the server. */
  | 'anyone'
  /** The instructor: everybody on this machine, or who knows the pass phrase. */
  | 'owner'
  /** In a class, by its code. */
  | 'student'
  /** A program, by the token of a student or of the owner. */
  | 'program'

/** Who asks. */
export interface Caller {
  readonly roles: readonly Role[]
  /** The student who asks, or whose program does; null for others. */
  readonly student: Member | null
}

/** A student in an open class. */
export interface Member {
  readonly id: string
  readonly classId: string
}

export const NOBODY: Caller = { roles: ['anyone'], student: null }
export const OWNER: Caller = { roles: ['anyone', 'owner'], student: null }

/** The header in which the gate tells the application who asks; what others send in it is thrown away. */
export const CALLER_HEADER = 'x-caller'

/** Who sent a request that came through the gate; nobody for any other. */
export function callerOf({ headers }: { readonly headers: Pick<Headers, 'get'> }): Caller {
  const said = headers.get(CALLER_HEADER)
  return said === null ? NOBODY : (JSON.parse(said) as Caller)
}

/** What the header says. */
export function callerText(caller: Caller): string {
  return JSON.stringify(caller)
}
