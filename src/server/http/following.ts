import Joi from 'joi'
import { coversSchema } from '../../core/lesson/covered'
import { sceneSchema } from '../../core/lesson/read-lesson'
import { kindOf } from '../../core/kinds/kinds'
import { parseEnvironment } from '../../core/environment/document'
import { refuse } from '../../core/problem'
import { announce } from '../class-events'
import type { Shown } from '../contract/questions'
import { database } from '../db/database'
import { documentWorkers } from '../document-workers'
import { follow, followedDocument, show } from '../following'
import { getClass } from '../repositories/classes'
import { answer, emptyAnswer, jsonAnswer, nothingAnswer, problemAnswer, readJson } from './answers'
import { checkedBody } from './bodies'
import { forMember } from './for-member'

const shown = Joi.object({
  title: Joi.string().max(200).allow('').required(),
  text: Joi.string().max(20_000).allow('').required(),
  scene: sceneSchema.required(),
  covers: coversSchema.default([]),
})
const followBody = Joi.object({ document: Joi.object().required(), shown: shown.required() }).required()
const showBody = Joi.object({
  document: Joi.string().max(100).required(),
  shown: shown.required(),
}).required()

/** PUT: `{document, shown}`: the class follows an environment from now on. @returns `{document}`, its name */
export function put(request: Request, classId: string): Promise<Response> {
  return answer(request, async () => {
    const body = checkedBody<{ document: object; shown: Shown }>(followBody, await readJson(request))
    const db = await database()
    if (!(await getClass(db, classId))?.code) return nothingAnswer()
    const sent = new TextEncoder().encode(JSON.stringify({ revision: 1, document: body.document }))
    const { document } = await documentWorkers().urgent.do('save', { body: sent })
    const read = parseEnvironment(document.text)
    if (kindOf(read).isCovered(read))
      refuse(
        'the truth',
        'It is hidden, and pages of students would carry it.',
        'Show it on the projector alone.',
      )
    const name = await follow(db, classId, { document: document.text, shown: body.shown })
    await announce(classId)
    return jsonAnswer({ document: name })
  })
}

/** PATCH: `{document, shown}`: what is shown of it now. */
export function patch(request: Request, classId: string): Promise<Response> {
  return answer(request, async () => {
    const body = checkedBody<{ document: string; shown: Shown }>(showBody, await readJson(request))
    if (!(await show(await database(), classId, body.document, body.shown)))
      return problemAnswer(409, {
        place: 'class',
        cause: 'It follows something else.',
        remedy: 'Let it follow this anew.',
      })
    await announce(classId)
    return emptyAnswer()
  })
}

/** DELETE: the class follows nothing any more. */
export function remove(request: Request, classId: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    if (!(await getClass(db, classId))) return nothingAnswer()
    await follow(db, classId, null)
    await announce(classId)
    return emptyAnswer()
  })
}

/** GET: the environment that a student follows. */
export function document(request: Request, name: string): Promise<Response> {
  return forMember(request, async (db, { classId }) => {
    const text = await followedDocument(db, classId, name)
    return text
      ? new Response(text, { headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } })
      : nothingAnswer()
  })
}
