import { checkComparison } from '../../core/compare/read-comparison'
import { database } from '../db/database'
import {
  deleteComparison,
  getComparison,
  insertComparison,
  listComparisons,
  updateComparison,
} from '../repositories/comparisons'
import { getEnvironment } from '../repositories/environments'
import { answer, emptyAnswer, jsonAnswer, missingAnswer, problemAnswer, readJson } from './answers'

/** GET: the comparisons of an environment, without what is in them. */
export function list(request: Request, environmentId: string): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listComparisons(await database(), environmentId)))
}

/** POST: a new comparison of an environment. */
export function create(request: Request, environmentId: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const record = await getEnvironment(db, environmentId)
    if (!record) return missingAnswer()
    const comparison = checkComparison(await readJson(request), record.document)
    const summary = await insertComparison(db, environmentId, comparison)
    return summary ? jsonAnswer(summary, 201) : missingAnswer()
  })
}

/** GET: a comparison. */
export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const found = await getComparison(db, id)
    const record = found && (await getEnvironment(db, found.environmentId))
    return record ? jsonAnswer(checkComparison(found.content, record.document)) : goneAnswer()
  })
}

/** PUT: a comparison as it is now. */
export function write(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const found = await getComparison(db, id)
    const record = found && (await getEnvironment(db, found.environmentId))
    if (!record) return goneAnswer()
    const comparison = checkComparison(await readJson(request), record.document)
    return (await updateComparison(db, id, comparison)) ? emptyAnswer() : goneAnswer()
  })
}

export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () =>
    (await deleteComparison(await database(), id)) ? emptyAnswer() : goneAnswer(),
  )
}

function goneAnswer(): Response {
  return problemAnswer(404, {
    place: 'comparison',
    cause: 'It was not kept, or has been deleted.',
    remedy: 'Look at the list of comparisons again.',
  })
}
