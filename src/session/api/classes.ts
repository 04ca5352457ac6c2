import type { Exercise } from '../../core/exercise/exercise'
import type { AssignmentTerms, Standings } from '../../server/contract/classes'
import type { KeptStore } from '../kept-session'
import { put, send } from './send'

const CLASSES = '/api/classes'
const EXERCISES = '/api/exercises'

async function post<T>(address: string, value: unknown, method = 'POST'): Promise<T> {
  const answer = await send(address, { method, body: JSON.stringify(value) })
  return (answer.status === 204 ? undefined : await answer.json()) as T
}

/** @returns its number */
export async function createClass(name: string): Promise<string> {
  return (await post<{ id: string }>(CLASSES, { name })).id
}

export async function changeClass(
  id: string,
  change: { readonly name: string } | { readonly change: 'new-code' | 'close' | 'open' },
): Promise<void> {
  await post(`${CLASSES}/${id}`, change, 'PATCH')
}

/** Deletes a class for good, with all that is kept of its students. */
export async function deleteClass(id: string): Promise<void> {
  await send(`${CLASSES}/${id}`, { method: 'DELETE' })
}

/** Puts a student out, or lets one in again. */
export async function putOut(id: string, student: string, out: boolean): Promise<void> {
  await post(`${CLASSES}/${id}/students/${student}`, { out }, 'PATCH')
}

/** Hands an exercise out to a class. */
export async function handOutExercise(id: string, exercise: string, terms: AssignmentTerms): Promise<void> {
  await post(`${CLASSES}/${id}/assignments`, { exercise, ...terms })
}

export async function changeAssignment(
  id: string,
  assignment: string,
  change:
    | { readonly change: 'terms'; readonly terms: AssignmentTerms }
    | { readonly change: 'reveal' | 'withdraw' },
): Promise<void> {
  await post(`${CLASSES}/${id}/assignments/${assignment}`, change, 'PATCH')
}

/** Where every hand-in is, as CSV. */
export function handInsAddress(id: string, assignment: string): string {
  return `${CLASSES}/${id}/assignments/${assignment}/hand-ins`
}

export async function readStandings(id: string, assignment: string): Promise<Standings> {
  return (await send(`${CLASSES}/${id}/assignments/${assignment}/standings`)).json()
}

/** Where exercises are kept. */
export const serverExercises: KeptStore<Exercise> & { remove(id: string): Promise<void> } = {
  create: (exercise) => post<{ id: string }>(EXERCISES, exercise),
  write: async (id, revision, exercise) =>
    ((await (await put(`${EXERCISES}/${id}`, { revision, exercise })).json()) as { revision: number })
      .revision,
  async remove(id) {
    await send(`${EXERCISES}/${id}`, { method: 'DELETE' })
  },
}

/** A new token for the instructor’s own programs; the one before does not count any more. */
export async function takeOwnerToken(): Promise<string> {
  return (await post<{ token: string }>('/api/token', {})).token
}
