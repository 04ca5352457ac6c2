import Joi from 'joi'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError, refuse, type Problem } from '../../core/problem'
import type { ProblemReport } from '../contract/environments'
import { countLater } from '../counting'
import { database } from '../db/database'
import { documentWorkers } from '../document-workers'
import {
  createEnvironment,
  createVariant,
  deleteEnvironment,
  duplicateEnvironment,
  getEnvironment,
  headOfEnvironment,
  renameEnvironment,
  restoreEnvironment,
  saveEnvironment,
  textOfEnvironment,
  type SaveOutcome,
} from '../repositories/environments'
import { listEnvironments } from '../repositories/shelf-list'
import { getVersion, keepVersion, listVersions } from '../repositories/versions'
import { answer, emptyAnswer, jsonAnswer, missingAnswer, readBytes, readJson } from './answers'

const renameBody = Joi.object({ name: Joi.string().trim().min(1).max(120).required() }).required()

/** GET: the shelf. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listEnvironments(await database())))
}

/**
 * POST: a new environment from a document, a rulebook or a transition list in the body; `?name=` names the latter two.
 * Only what compiles is stored; where nobody knows how many states there are, what has no fault in its text.
 */
export function create(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { document, size } = await documentWorkers().urgent.do('receive', {
      body: await readBytes(request),
      name: new URL(request.url).searchParams.get('name') ?? '',
    })
    const db = await database()
    const receipt = await createEnvironment(db, document, new Date(), null, size)
    countLater(db)
    // Into the answer as it stands: it may be large.
    const head = JSON.stringify({ ...receipt, base: null }).slice(0, -1)
    return new Response(`${head},"document":${document.text}}`, {
      status: 201,
      headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
    })
  })
}

export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const record = await getEnvironment(await database(), id)
    return record ? jsonAnswer(record) : missingAnswer()
  })
}

/** GET: what stands in the database for an environment, to the letter, also where it cannot be read. */
export function readText(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const text = await textOfEnvironment(await database(), id)
    if (text === undefined) return missingAnswer()
    const headers = { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' }
    return new Response(text, { headers })
  })
}

/** Pictures that were drawn, by id and revision. */
const drawn = new Map<string, string>()
/** Pictures that are remembered. */
const REMEMBERED = 1000

/** GET: a small picture, as SVG. @param draw  draws it */
export function picture(
  request: Request,
  id: string,
  draw: (document: EnvironmentDocument) => string,
): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const head = await headOfEnvironment(db, id)
    if (!head) return missingAnswer()
    if (!head.pictured)
      return refuse('picture', 'The environment is too large for one.', 'Open it to see its board.')
    const key = `${id} ${head.revision}`
    let svg = drawn.get(key)
    if (svg === undefined) {
      const record = await getEnvironment(db, id)
      if (!record) return missingAnswer()
      svg = draw(record.document)
      if (drawn.size >= REMEMBERED) drawn.clear()
      drawn.set(key, svg)
    }
    // The address names the revision, so that what was fetched once need not be fetched again.
    const headers = { 'content-type': 'image/svg+xml', 'cache-control': 'private, max-age=86400' }
    return new Response(svg, { headers })
  })
}

/** PUT: `{revision, document}`; what is half made is kept as well, a grid if it can be drawn. */
export function save(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { revision, document } = await documentWorkers().urgent.do('save', {
      body: await readBytes(request),
    })
    const db = await database()
    const outcome = await saveEnvironment(db, id, revision, document, new Date(), documentWorkers().urgent)
    countLater(db)
    return saveAnswer(outcome)
  })
}

/** PATCH: `{name}` */
export function rename(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    return renamed(id, name)
  })
}

export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () =>
    (await deleteEnvironment(await database(), id)) ? emptyAnswer() : missingAnswer(),
  )
}

export function restore(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    if (!(await restoreEnvironment(db, id))) return missingAnswer()
    countLater(db)
    return emptyAnswer()
  })
}

export function duplicate(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const record = await duplicateEnvironment(await database(), id, documentWorkers().urgent)
    return record ? jsonAnswer(record, 201) : missingAnswer()
  })
}

/** POST: `{name}`; a variant of the environment. */
export function makeVariant(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    const record = await createVariant(await database(), id, name, documentWorkers().urgent)
    return record ? jsonAnswer(record, 201) : missingAnswer()
  })
}

/** GET: the versions that were kept. */
export function versions(request: Request, id: string): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listVersions(await database(), id)))
}

/** POST: `{name}`; keeps the environment as it is on the shelf. */
export function keep(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const { name } = checkBody<{ name: string }>(renameBody, await readJson(request))
    const kept = await keepVersion(await database(), id, name)
    return kept ? jsonAnswer(kept, 201) : missingAnswer()
  })
}

export function readVersion(request: Request, id: string, version: string): Promise<Response> {
  return answer(request, async () => {
    const record = await getVersion(await database(), id, version)
    return record ? jsonAnswer(record) : missingAnswer()
  })
}

async function renamed(id: string, name: string): Promise<Response> {
  const db = await database()
  const outcome = await renameEnvironment(db, id, name, documentWorkers().urgent)
  countLater(db)
  return saveAnswer(outcome)
}

function saveAnswer(result: SaveOutcome): Response {
  if (result.outcome === 'saved') return jsonAnswer(result.receipt)
  if (result.outcome === 'missing') return missingAnswer()
  const problem: Problem = {
    place: 'environment',
    cause: result.followed
      ? 'It followed its base in the meantime.'
      : 'It was changed elsewhere in the meantime, in another tab perhaps.',
    remedy: 'Reload to see that version, or keep yours as a copy.',
  }
  return jsonAnswer(
    { problems: [problem], ...(result.followed ? { followed: true } : {}) } satisfies ProblemReport,
    409,
  )
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
