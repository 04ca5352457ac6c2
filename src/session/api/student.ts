import type { Standings, StudentExercise, WatchedSession } from '../../server/contract/classes'
import { send } from './send'

const HERE = '/api/class'

/** Enters the class of a code. @throws ProblemError */
export async function joinClass(code: string, name: string): Promise<void> {
  await send('/api/join', { method: 'POST', body: JSON.stringify({ code, name }) })
}

export async function leaveClass(): Promise<void> {
  await send('/api/join', { method: 'DELETE' })
}

/** Says the pass phrase. @throws ProblemError */
export async function enterAsOwner(phrase: string): Promise<void> {
  await send('/api/enter', { method: 'POST', body: JSON.stringify({ phrase }) })
}

export async function readStudentExercise(id: string): Promise<StudentExercise> {
  return (await send(`${HERE}/exercises/${id}`)).json()
}

/** Hands in a file, or what was drawn or written. */
export async function handIn(id: string, content: Blob | string): Promise<void> {
  await send(`${HERE}/exercises/${id}/hand-ins`, {
    method: 'POST',
    body: content,
    headers: { 'content-type': 'application/octet-stream' },
  })
}

export async function readOwnStandings(id: string): Promise<Standings> {
  return (await send(`${HERE}/exercises/${id}/standings`)).json()
}

/** A new token for programs; the one before does not count any more. */
export async function takeToken(): Promise<string> {
  return ((await (await send(`${HERE}/token`, { method: 'POST' })).json()) as { token: string }).token
}

/** The picture of a board, as SVG. */
export async function readPicture(address: string): Promise<string> {
  return (await send(address)).text()
}

/** What the student’s programs play of an exercise now. */
export async function readPlaying(id: string): Promise<WatchedSession[]> {
  return (await send(`${HERE}/exercises/${id}/playing`)).json()
}
