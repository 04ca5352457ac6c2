import { database } from '../db/database'
import { documentWorkers } from '../document-workers'
import {
  deleteCheckpoint,
  getCheckpoint,
  insertCheckpoint,
  listCheckpoints,
} from '../repositories/checkpoints'
import { answer, emptyAnswer, jsonAnswer, missingAnswer, problemAnswer, readBytes } from './answers'

/** GET: the learned tables of the whole shelf, without their numbers. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listCheckpoints(await database())))
}

/** POST: a learned table of an environment. */
export function keep(request: Request, environmentId: string): Promise<Response> {
  return answer(request, async () => {
    const table = await documentWorkers().urgent.do('table', { body: await readBytes(request) })
    const summary = await insertCheckpoint(await database(), environmentId, table)
    return summary ? jsonAnswer(summary, 201) : missingAnswer()
  })
}

/** GET: a learned table with its numbers. */
export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const checkpoint = await getCheckpoint(await database(), id)
    return checkpoint ? jsonAnswer(checkpoint) : goneAnswer()
  })
}

export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () =>
    (await deleteCheckpoint(await database(), id)) ? emptyAnswer() : goneAnswer(),
  )
}

function goneAnswer(): Response {
  return problemAnswer(404, {
    place: 'checkpoint',
    cause: 'It was not kept, or has been deleted.',
    remedy: 'Look at the list again.',
  })
}
