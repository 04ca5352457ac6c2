import { checkScene } from '../../core/lesson/read-lesson'
import { database } from '../db/database'
import { getEnvironment } from '../repositories/environments'
import { keepLink } from '../repositories/links'
import { answer, jsonAnswer, missingAnswer, readJson } from './answers'

/** POST: a short name for what is on the screen of an environment. */
export function create(request: Request, environmentId: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const record = await getEnvironment(db, environmentId)
    if (!record) return missingAnswer()
    const id = await keepLink(db, environmentId, checkScene(await readJson(request), record.document))
    return id === undefined ? missingAnswer() : jsonAnswer({ id }, 201)
  })
}
