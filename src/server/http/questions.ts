import Joi from 'joi'
import { announce, classNow } from '../class-events'
import type { Question, QuestionState, Truth } from '../contract/questions'
import { database } from '../db/database'
import { getClass } from '../repositories/classes'
import { answerQuestion, askClass, changeQuestion, getQuestion } from '../repositories/questions'
import { answer, emptyAnswer, jsonAnswer, nothingAnswer, readJson, SMALL_BODY } from './answers'
import { checkedBody, writtenText } from './bodies'
import { forMember } from './for-member'
import { eventStream } from './event-stream'

const choices = Joi.array().items(writtenText(80)).min(2).max(24)
const number = Joi.number().min(-1e12).max(1e12)
const askBody = Joi.object({
  question: Joi.object({
    text: writtenText(500).required(),
    kind: Joi.valid('number', 'choice', 'needle').required(),
    choices: choices.when('kind', { is: 'number', then: Joi.forbidden(), otherwise: Joi.required() }),
  }).required(),
  truth: Joi.object({ value: number.required(), working: Joi.string().max(2000).allow('').required() })
    .allow(null)
    .required(),
}).required()
const stateBody = Joi.object({ state: Joi.valid('open', 'closed', 'revealed').required() }).required()
const answerBody = Joi.object({ value: number.required() }).required()

/** POST: `{question, truth}`: asks a class. @returns `{id}` */
export function ask(request: Request, classId: string): Promise<Response> {
  return answer(request, async () => {
    const { question, truth } = checkedBody<{ question: Question; truth: Truth | null }>(
      askBody,
      await readJson(request),
    )
    const db = await database()
    if (!(await getClass(db, classId))?.code) return nothingAnswer()
    const id = await askClass(db, classId, question, truth)
    await announce(classId)
    return jsonAnswer({ id }, 201)
  })
}

/** GET: a question with how it is answered. */
export function read(request: Request, classId: string, id: string): Promise<Response> {
  return answer(request, async () => {
    const found = await getQuestion(await database(), classId, id)
    return found ? jsonAnswer(found) : nothingAnswer()
  })
}

/** PATCH: `{state}`: closes it, reveals what is true, or opens it again. */
export function change(request: Request, classId: string, id: string): Promise<Response> {
  return answer(request, async () => {
    const { state } = checkedBody<{ state: QuestionState }>(stateBody, await readJson(request))
    const done = await changeQuestion(await database(), classId, id, state)
    if (done) await announce(classId)
    return done ? emptyAnswer() : nothingAnswer()
  })
}

/** PUT: `{value}`: the answer of a student. */
export function put(request: Request, id: string): Promise<Response> {
  return forMember(request, async (db, student) => {
    const { value } = checkedBody<{ value: number }>(answerBody, await readJson(request, SMALL_BODY))
    const known = await answerQuestion(db, student.classId, id, student.id, value)
    return known ? emptyAnswer() : nothingAnswer()
  })
}

/** GET: what goes on in the class, and every change of it, as server-sent events. */
export function events(request: Request): Promise<Response> {
  return forMember(request, async (_, { id, classId }) => eventStream(id, classId, await classNow(classId)))
}
