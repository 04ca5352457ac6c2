import type { Caller, Member } from '../access/caller'
import { database } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import { answer, nothingAnswer } from './answers'

/** Runs a route for a student, or a program of one. */
export function forMember(
  request: Request,
  run: (db: OpenDatabase, student: Member) => Promise<Response>,
): Promise<Response> {
  return answer(request, async ({ student }: Caller) =>
    student ? run(await database(), student) : nothingAnswer(),
  )
}
