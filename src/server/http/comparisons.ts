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
import { answer, missingAnswer, problemAnswer, readJson } from './answers'

/** GET: the comparisons of an environment, without what is in them. */
export function list(environmentId: string): Promise<Response> {
  return answer(async () => Response.json(await listComparisons(await database(), environmentId)))
}

/** POST: a new comparison of an environment. */
export function create(environmentId: string, request: Request): Promise<Response> {
  return answer(async () => {
    const db = await database()
    const record = await getEnvironment(db, environmentId)
    if (!record) return missingAnswer()
    const comparison = checkComparison(await readJson(request), record.document)
    const summary = await insertComparison(db, environmentId, comparison)
    return summary ? Response.json(summary, { status: 201 }) : missingAnswer()
  })
}

/** GET: a comparison. */
export function read(id: string): Promise<Response> {
  return answer(async () => {
    const db = await database()
    const found = await getComparison(db, id)
    const record = found && (await getEnvironment(db, found.environmentId))
    return record ? Response.json(checkComparison(found.content, record.document)) : goneAnswer()
  })
}

/** PUT: a comparison as it is now. */
export function write(id: string, request: Request): Promise<Response> {
  return answer(async () => {
    const db = await database()
    const found = await getComparison(db, id)
    const record = found && (await getEnvironment(db, found.environmentId))
    if (!record) return goneAnswer()
    const comparison = checkComparison(await readJson(request), record.document)
    return (await updateComparison(db, id, comparison)) ? new Response(null, { status: 204 }) : goneAnswer()
  })
}

export function remove(id: string): Promise<Response> {
  return answer(async () =>
    (await deleteComparison(await database(), id)) ? new Response(null, { status: 204 }) : goneAnswer(),
  )
}

function goneAnswer(): Response {
  return problemAnswer(404, {
    place: 'comparison',
    cause: 'It was not kept, or has been deleted.',
    remedy: 'Look at the list of comparisons again.',
  })
}
