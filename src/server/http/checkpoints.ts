import { checkCheckpoint } from '../../core/learn/read-checkpoint'
import { database } from '../db/database'
import {
  deleteCheckpoint,
  getCheckpoint,
  insertCheckpoint,
  listCheckpoints,
} from '../repositories/checkpoints'
import { answer, missingAnswer, problemAnswer, readJson } from './answers'

/** GET: the learned tables of the whole shelf, without their numbers. */
export function list(): Promise<Response> {
  return answer(async () => Response.json(await listCheckpoints(await database())))
}

/** POST: a learned table of an environment. */
export function keep(environmentId: string, request: Request): Promise<Response> {
  return answer(async () => {
    const checkpoint = checkCheckpoint(await readJson(request))
    const summary = await insertCheckpoint(await database(), environmentId, checkpoint)
    return summary ? Response.json(summary, { status: 201 }) : missingAnswer()
  })
}

/** GET: a learned table with its numbers. */
export function read(id: string): Promise<Response> {
  return answer(async () => {
    const checkpoint = await getCheckpoint(await database(), id)
    return checkpoint ? Response.json(checkpoint) : goneAnswer()
  })
}

export function remove(id: string): Promise<Response> {
  return answer(async () =>
    (await deleteCheckpoint(await database(), id)) ? new Response(null, { status: 204 }) : goneAnswer(),
  )
}

function goneAnswer(): Response {
  return problemAnswer(404, {
    place: 'checkpoint',
    cause: 'It was not kept, or has been deleted.',
    remedy: 'Look at the list again.',
  })
}
