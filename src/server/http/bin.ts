import type { BinKind } from '../contract/bin'
import { countLater } from '../counting'
import { database } from '../db/database'
import { emptyFromBin, listBin, takeFromBin } from '../repositories/bin'
import { answer, emptyAnswer, jsonAnswer, problemAnswer } from './answers'

/** GET: what was deleted and can be brought back. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listBin(await database())))
}

/** POST: takes something out of the bin. */
export function take(request: Request, kind: string, id: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    if (!isBinKind(kind) || !(await takeFromBin(db, kind, id))) return notThere()
    countLater(db)
    return emptyAnswer()
  })
}

/** DELETE: deletes something for good. */
export function empty(request: Request, kind: string, id: string): Promise<Response> {
  return answer(request, async () =>
    isBinKind(kind) && (await emptyFromBin(await database(), kind, id)) ? emptyAnswer() : notThere(),
  )
}

const KINDS: Readonly<Record<BinKind, true>> = {
  environment: true,
  table: true,
  comparison: true,
  lesson: true,
  exercise: true,
}

function isBinKind(kind: string): kind is BinKind {
  return Object.hasOwn(KINDS, kind)
}

function notThere(): Response {
  return problemAnswer(404, {
    place: 'bin',
    cause: 'It is not in the bin, or no longer.',
    remedy: 'Look at the bin again.',
  })
}
