import Joi from 'joi'
import { database } from '../db/database'
import { documentWorkers } from '../document-workers'
import {
  createExercise,
  deleteExercise,
  getExercise,
  listExercises,
  saveExercise,
} from '../repositories/exercises'
import { answer, emptyAnswer, jsonAnswer, nothingAnswer, problemAnswer, readBytes, readJson } from './answers'
import { checkedBody } from './bodies'

const saveBody = Joi.object({
  revision: Joi.number().integer().min(1).required(),
  exercise: Joi.object().required(),
}).required()

/** GET: the exercises, without what is in them. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listExercises(await database())))
}

/** POST: an exercise, as docs/formats.md says. @returns `{id}` */
export function create(request: Request): Promise<Response> {
  return answer(request, async () => {
    const exercise = await documentWorkers().urgent.do('exercise', { body: await readBytes(request) })
    return jsonAnswer({ id: await createExercise(await database(), exercise) }, 201)
  })
}

/** GET: an exercise. */
export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const record = await getExercise(await database(), id)
    return record ? jsonAnswer(record) : nothingAnswer()
  })
}

/** PUT: `{revision, exercise}`. */
export function write(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { revision, exercise } = checkedBody<{ revision: number; exercise: unknown }>(
      saveBody,
      await readJson(request),
    )
    const body = new TextEncoder().encode(JSON.stringify(exercise))
    const stored = await documentWorkers().urgent.do('exercise', { body })
    const saved = await saveExercise(await database(), id, revision, stored)
    if (saved === undefined) return nothingAnswer()
    return saved === 'stale'
      ? problemAnswer(409, {
          place: 'exercise',
          cause: 'It was changed elsewhere since it was opened here.',
          remedy: 'Load it again.',
        })
      : jsonAnswer({ revision: saved })
  })
}

export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () =>
    (await deleteExercise(await database(), id)) ? emptyAnswer() : nothingAnswer(),
  )
}
