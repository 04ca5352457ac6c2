import Joi from 'joi'
import { checkComparison } from '../../core/compare/read-comparison'
import { refuse } from '../../core/problem'
import type { JobChange, JobList, JobResults } from '../contract/jobs'
import { database } from '../db/database'
import { jobs } from '../jobs/jobs'
import { getEnvironment } from '../repositories/environments'
import { readChunks } from '../repositories/jobs'
import { answer, emptyAnswer, jsonAnswer, missingAnswer, problemAnswer, readJson } from './answers'

/** Chunks of an answer at the most. */
const CHUNKS = 100

/** GET: the jobs of the server. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { engine, notice } = await jobs()
    return jsonAnswer({ jobs: await engine.list(), notice: await notice() } satisfies JobList)
  })
}

/** POST: a comparison of an environment, whose runs the server is to play. Its answer has the id of the job. */
export function submit(request: Request, environmentId: string): Promise<Response> {
  return answer(request, async () => {
    const record = await getEnvironment(await database(), environmentId)
    if (!record) return missingAnswer()
    const { environment = record.document, ...comparison } = checkComparison(
      await readJson(request),
      record.document,
    )
    const { engine } = await jobs()
    return jsonAnswer({ id: await engine.submit(environmentId, comparison, environment) }, 201)
  })
}

const changeSchema = Joi.object<JobChange>({
  state: Joi.valid('active', 'paused', 'cancelled'),
  priority: Joi.number().integer().min(-100).max(100),
})
  .or('state', 'priority')
  .required()

/** PATCH: pauses a job, lets it go on, gives it up, or says how urgent it is. */
export function change(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { error, value } = changeSchema.validate(await readJson(request), { convert: false })
    if (error) refuse('request', `${error.message}.`, 'Send {"state":"paused"} or {"priority":1}.')
    const { engine } = await jobs()
    return (await engine.change(id, value as JobChange)) ? emptyAnswer() : overAnswer()
  })
}

/** DELETE: a job, with what came of it. */
export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { engine } = await jobs()
    await engine.remove(id)
    return emptyAnswer()
  })
}

/** GET: the runs of a job that are done; `?after=` names the last ones that are known. */
export function results(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const after = Number(new URL(request.url).searchParams.get('after') ?? 0)
    if (!Number.isSafeInteger(after) || after < 0)
      refuse('after', `It is not a whole number from 0.`, 'Leave it out to have all.')
    const found = await readChunks(await database(), id, after, CHUNKS)
    return jsonAnswer({
      chunks: found.map(({ key, runs }) => ({ key, runs })),
      last: found.at(-1)?.place ?? after,
      more: found.length === CHUNKS,
    } satisfies JobResults)
  })
}

function overAnswer(): Response {
  return problemAnswer(404, {
    place: 'job',
    cause: 'It is over, or was taken off the list.',
    remedy: 'Look at the list of jobs again.',
  })
}
