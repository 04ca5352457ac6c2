import { CALLER_HEADER, callerText, OWNER, type Caller } from '../access/caller'

/** A request as the gate lets it through. */
export function requestOf(caller: Caller, address: string, init: RequestInit = {}): Request {
  const headers = new Headers(init.headers)
  headers.set(CALLER_HEADER, callerText(caller))
  return new Request(address, { ...init, headers })
}

export function fromOwner(address: string, init?: RequestInit): Request {
  return requestOf(OWNER, address, init)
}

export function fromStudent(id: string, classId: string, address: string, init?: RequestInit): Request {
  return requestOf({ roles: ['anyone', 'student'], student: { id, classId } }, address, init)
}
