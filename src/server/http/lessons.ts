import Joi from 'joi'
import { checkLesson } from '../../core/lesson/read-lesson'
import { database } from '../db/database'
import {
  createLesson,
  deleteLesson,
  getLesson,
  getLessonVersion,
  keepLessonVersion,
  listLessons,
  saveLesson,
} from '../repositories/lessons'
import { listVersions } from '../repositories/versions'
import { answer, emptyAnswer, jsonAnswer, problemAnswer, readJson } from './answers'
import { checkedBody } from './bodies'

const saveBody = Joi.object({
  revision: Joi.number().integer().min(1).required(),
  lesson: Joi.object().required(),
}).required()
const nameBody = Joi.object({ name: Joi.string().trim().min(1).max(120).required() }).required()

/** GET: the lessons on the shelf, without what is in them. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listLessons(await database())))
}

/** POST: a new lesson. */
export function create(request: Request): Promise<Response> {
  return answer(request, async () =>
    jsonAnswer(await createLesson(await database(), checkLesson(await readJson(request))), 201),
  )
}

/** GET: a lesson. */
export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const record = await getLesson(await database(), id)
    return record ? jsonAnswer(record) : goneAnswer()
  })
}

/** PUT: `{revision, lesson}`. */
export function write(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { revision, lesson } = checkedBody<{ revision: number; lesson: unknown }>(
      saveBody,
      await readJson(request),
    )
    const saved = await saveLesson(await database(), id, revision, checkLesson(lesson))
    if (saved === undefined) return goneAnswer()
    return saved === 'stale' ? staleAnswer() : jsonAnswer({ revision: saved })
  })
}

export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () =>
    (await deleteLesson(await database(), id)) ? emptyAnswer() : goneAnswer(),
  )
}

/** GET: its versions, the latest in front. */
export function versions(request: Request, id: string): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listVersions(await database(), id)))
}

/** POST: keeps it as it is now, under a name. */
export function keepVersion(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { name } = checkedBody<{ name: string }>(nameBody, await readJson(request))
    return (await keepLessonVersion(await database(), id, name)) ? emptyAnswer() : goneAnswer()
  })
}

/** GET: what it was. */
export function version(request: Request, id: string, versionId: string): Promise<Response> {
  return answer(request, async () => {
    const lesson = await getLessonVersion(await database(), id, versionId)
    return lesson ? jsonAnswer(lesson) : goneAnswer()
  })
}

function goneAnswer(): Response {
  return problemAnswer(404, {
    place: 'lesson',
    cause: 'It is not on the shelf, or no longer.',
    remedy: 'Go back to the shelf.',
  })
}

function staleAnswer(): Response {
  return problemAnswer(409, {
    place: 'lesson',
    cause: 'It was changed elsewhere since it was opened here.',
    remedy: 'Load it again, or save what is here as a lesson of its own.',
  })
}
