import { tryCompile } from '../../core/environment/compile'
import { readEnvironment } from '../../core/environment/read'
import Joi from 'joi'
import { checkEnvironment } from '../../core/environment/document'
import { kindOf, type EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import { database } from '../db/database'
import {
  createEnvironment,
  createVariant,
  deleteEnvironment,
  duplicateEnvironment,
  getEnvironment,
  listEnvironments,
  renameEnvironment,
  restoreEnvironment,
  saveEnvironment,
  type SaveOutcome,
} from '../repositories/environments'
import { getVersion, keepVersion, listVersions } from '../repositories/versions'
import { answer, missingAnswer, problemAnswer, readBody, readJson } from './answers'

const saveBody = Joi.object({
  revision: Joi.number().integer().min(1).required(),
  document: Joi.object().unknown().required(),
}).required()
const renameBody = Joi.object({ name: Joi.string().trim().min(1).max(120).required() }).required()

/** GET: the shelf. */
export function list(): Promise<Response> {
  return answer(async () => Response.json(await listEnvironments(await database())))
}

/**
 * POST: a new environment from a document, a rulebook or a transition list in the body; `?name=` names the latter two.
 * Only what compiles is stored; where nobody knows how many states there are, what has no fault in its text.
 */
export function create(request: Request): Promise<Response> {
  return answer(async () => {
    const document = readEnvironment(
      await readBody(request),
      new URL(request.url).searchParams.get('name') ?? '',
    )
    const kind = kindOf(document)
    kind.check(document)
    if (kind.roughOutcomes(document) < Infinity) {
      const result = tryCompile(document)
      if (!result.ok) throw new ProblemError(result.problems)
    }
    return Response.json(await createEnvironment(await database(), document), { status: 201 })
  })
}

export function read(id: string): Promise<Response> {
  return answer(async () => {
    const record = await getEnvironment(await database(), id)
    return record ? Response.json(record) : missingAnswer()
  })
}

/** GET: a small picture, as SVG. @param draw  draws it */
export function picture(id: string, draw: (document: EnvironmentDocument) => string): Promise<Response> {
  return answer(async () => {
    const record = await getEnvironment(await database(), id)
    if (!record) return missingAnswer()
    // The address names the revision, so that what was fetched once need not be fetched again.
    const headers = { 'content-type': 'image/svg+xml', 'cache-control': 'private, max-age=86400' }
    return new Response(draw(record.document), { headers })
  })
}

/** PUT: `{revision, document}`; what is half made is kept as well, a grid if it can be drawn. */
export function save(id: string, request: Request): Promise<Response> {
  return answer(async () => {
    const body = checkBody<{ revision: number; document: unknown }>(saveBody, await readJson(request))
    const document = checkEnvironment(body.document)
    kindOf(document).checkShape(document)
    return saveAnswer(await saveEnvironment(await database(), id, body.revision, document))
  })
}

/** PATCH: `{name}` */
export function rename(id: string, request: Request): Promise<Response> {
  return answer(async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    return saveAnswer(await renameEnvironment(await database(), id, name))
  })
}

export function remove(id: string): Promise<Response> {
  return answer(async () =>
    (await deleteEnvironment(await database(), id)) ? new Response(null, { status: 204 }) : missingAnswer(),
  )
}

export function restore(id: string): Promise<Response> {
  return answer(async () =>
    (await restoreEnvironment(await database(), id)) ? new Response(null, { status: 204 }) : missingAnswer(),
  )
}

export function duplicate(id: string): Promise<Response> {
  return answer(async () => {
    const record = await duplicateEnvironment(await database(), id)
    return record ? Response.json(record, { status: 201 }) : missingAnswer()
  })
}

/** POST: `{name}`; a variant of the environment. */
export function makeVariant(id: string, request: Request): Promise<Response> {
  return answer(async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    const record = await createVariant(await database(), id, name)
    return record ? Response.json(record, { status: 201 }) : missingAnswer()
  })
}

/** GET: the versions that were kept. */
export function versions(id: string): Promise<Response> {
  return answer(async () => Response.json(await listVersions(await database(), id)))
}

/** POST: `{name}`; keeps the environment as it is on the shelf. */
export function keep(id: string, request: Request): Promise<Response> {
  return answer(async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    const kept = await keepVersion(await database(), id, name)
    return kept ? Response.json(kept, { status: 201 }) : missingAnswer()
  })
}

export function readVersion(id: string, version: string): Promise<Response> {
  return answer(async () => {
    const record = await getVersion(await database(), id, version)
    return record ? Response.json(record) : missingAnswer()
  })
}

function saveAnswer(result: SaveOutcome): Response {
  if (result.outcome === 'saved') return Response.json(result.receipt)
  if (result.outcome === 'missing') return missingAnswer()
  return problemAnswer(409, {
    place: 'environment',
    cause: 'It was changed elsewhere in the meantime, in another tab perhaps.',
    remedy: 'Reload to see that version, or keep yours as a copy.',
  })
}

function checkBody<T>(schema: Joi.ObjectSchema, value: unknown): T {
  const { error, value: checked } = schema.validate(value, { convert: false })
  if (error)
    throw new ProblemError([
      {
        place: 'request',
        cause: `${error.details[0].message}.`,
        remedy: 'See docs/formats.md for the interface.',
      },
    ])
  return checked as T
}
