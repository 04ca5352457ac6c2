import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate'
import Joi from 'joi'
import { and, asc, desc, eq, isNull } from 'drizzle-orm'
import { checkComparison } from '../core/compare/read-comparison'
import { checkEnvironment } from '../core/environment/document'
import { fileName } from '../core/formats/file-name'
import { storedTable } from '../hosts/node/document-tasks'
import { kindOf, type EnvironmentDocument } from '../core/kinds/kinds'
import { checkCheckpoint } from '../core/learn/read-checkpoint'
import { parseJson } from '../core/formats/json'
import { ProblemError, refuse } from '../core/problem'
import type { Lesson } from '../core/lesson/lesson-document'
import { checkLesson } from '../core/lesson/read-lesson'
import { checkpoints, comparisons, environments, lessons, type Database } from './db/schema'
import { inTransaction } from './db/transaction'
import { insertCheckpoint } from './repositories/checkpoints'
import { insertComparison } from './repositories/comparisons'
import { createEnvironment } from './repositories/environments'
import { createLesson, tryReadLesson } from './repositories/lessons'
import { tryReadDocument } from './repositories/stored'

const FORMAT = 'jaunty-pawn/shelf'
const VERSION = 1
/** The file that says how the others belong together. */
const CONTENTS = 'shelf.json'
/** What an archive may hold, unpacked, in bytes. */
const UNPACKED = 256 * 1024 * 1024

interface Entry {
  readonly file: string
  /** Of a variant: the file of its base. */
  readonly base: string | null
  /** Files of learned tables, and of comparisons. */
  readonly tables: readonly string[]
  readonly comparisons: readonly string[]
}

/** The whole shelf as a zip: documents, learned tables, comparisons and lessons, as they are exported one by one. */
export async function packShelf(db: Database): Promise<Uint8Array> {
  const rows = await db
    .select()
    .from(environments)
    .where(isNull(environments.deletedAt))
    .orderBy(desc(environments.updatedAt), environments.name)
  const files: Zippable = {}
  const put = (folder: string, name: string, text: string, ending = '.json') => {
    const number = String(Object.keys(files).length + 1).padStart(4, '0')
    const path = `${folder}/${number}-${fileName(name, ending)}`
    files[path] = strToU8(text)
    return path
  }
  const places = new Map<string, string>()
  for (const { id, name, document } of rows) {
    // What cannot be read is taken along to the letter, for somebody to look at.
    if ('damage' in tryReadDocument(document)) put('unreadable', name, document, '.txt')
    else places.set(id, put('environments', name, document))
  }
  const entries: Entry[] = []
  for (const { id, baseId } of rows) {
    const file = places.get(id)
    if (!file) continue
    const tables = await db
      .select({ name: checkpoints.name, content: checkpoints.content })
      .from(checkpoints)
      .where(and(eq(checkpoints.environmentId, id), isNull(checkpoints.deletedAt)))
      .orderBy(asc(checkpoints.createdAt))
    const compared = await db
      .select({ name: comparisons.name, content: comparisons.content })
      .from(comparisons)
      .where(and(eq(comparisons.environmentId, id), isNull(comparisons.deletedAt)))
      .orderBy(asc(comparisons.updatedAt))
    entries.push({
      file,
      base: places.get(baseId ?? '') ?? null,
      tables: tables.map(({ name, content }) => put('tables', name, content)),
      comparisons: compared.map(({ name, content }) => put('comparisons', name, content)),
    })
  }
  const taught: string[] = []
  for (const { name, content } of await db
    .select({ name: lessons.name, content: lessons.content })
    .from(lessons)
    .where(isNull(lessons.deletedAt))
    .orderBy(asc(lessons.createdAt))) {
    const lesson = tryReadLesson(content)
    if (!lesson) put('unreadable', name, content, '.txt')
    else taught.push(put('lessons', name, JSON.stringify(withShelves(lesson, places))))
  }
  files[CONTENTS] = strToU8(
    JSON.stringify({ format: FORMAT, version: VERSION, environments: entries, lessons: taught }, null, 2),
  )
  return zipSync(files, { level: 6 })
}

/** A lesson whose environments are found where a map says; null for those that are not there. */
function withShelves(lesson: Lesson, places: ReadonlyMap<string, string>): Lesson {
  const environments = Object.entries(lesson.environments).map(([key, { shelf, document }]) => [
    key,
    { shelf: places.get(shelf ?? '') ?? null, document },
  ])
  return { ...lesson, environments: Object.fromEntries(environments) }
}

const path = Joi.string().max(500)
const contentsSchema = Joi.object({
  format: Joi.string().valid(FORMAT).required(),
  version: Joi.number().valid(VERSION).required(),
  environments: Joi.array()
    .items(
      Joi.object({
        file: path.required(),
        base: path.allow(null).default(null),
        tables: Joi.array().items(path).default([]),
        comparisons: Joi.array().items(path).default([]),
      }),
    )
    .required(),
  lessons: Joi.array().items(path).default([]),
}).required()

/** What an archive says of its files. */
interface Contents {
  readonly environments: readonly Entry[]
  readonly lessons: readonly string[]
}

/**
 * Puts everything of an archive on the shelf, beside what is there: all of it, or nothing.
 * @returns how many environments there were
 * @throws ProblemError naming the file in which something is wrong
 */
export async function unpackShelf(db: Database, bytes: Uint8Array, now = Date.now()): Promise<number> {
  const files = unzipped(bytes)
  const read = <T>(file: string, check: (value: unknown) => T): T => readFile(files, file, check)
  const { environments: entries, lessons: taught } = read(CONTENTS, (value) => {
    const { error, value: checked } = contentsSchema.validate(value, { convert: false })
    if (error)
      refuse('contents', `${error.details[0].message}.`, 'Choose an archive that was exported from a shelf.')
    return checked as Contents
  })
  // All is read and checked before anything is stored.
  const parts = entries.map((entry) => {
    const document = read(entry.file, shapedEnvironment)
    return {
      ...entry,
      document,
      tables: entry.tables.map((file) => read(file, (value) => storedTable(checkCheckpoint(value)))),
      comparisons: entry.comparisons.map((file) => read(file, (value) => checkComparison(value, document))),
    }
  })
  const toTeach = taught.map((file) => read(file, checkLesson))
  refuseRounds(entries)
  await inTransaction(db, async (tx) => {
    const ids = new Map<string, string>()
    for (const [i, { file, document, tables, comparisons: compared }] of parts.entries()) {
      // A little apart, so that the first one stands first.
      const { id } = await createEnvironment(tx, document, new Date(now - i))
      ids.set(file, id)
      for (const table of tables) await insertCheckpoint(tx, id, table)
      for (const comparison of compared) await insertComparison(tx, id, comparison)
    }
    for (const { file, base } of parts) {
      const [id, baseId] = [ids.get(file)!, ids.get(base ?? '')]
      if (baseId && baseId !== id)
        await tx.update(environments).set({ baseId }).where(eq(environments.id, id))
    }
    for (const [i, lesson] of toTeach.entries())
      await createLesson(tx, withShelves(lesson, ids), new Date(now + i))
  })
  return parts.length
}

/** @throws ProblemError where a variant would follow itself, over however many others */
function refuseRounds(entries: readonly Entry[]): void {
  const bases = new Map(entries.map(({ file, base }) => [file, base]))
  for (const { file } of entries) {
    const met = new Set<string>()
    for (let at: string | null = file; at; at = bases.get(at) ?? null) {
      if (met.has(at)) refuse(CONTENTS, `${file} is a variant of itself.`, 'Let one of them follow nothing.')
      met.add(at)
    }
  }
}

function shapedEnvironment(value: unknown): EnvironmentDocument {
  const document = checkEnvironment(value)
  kindOf(document).checkShape(document)
  return document
}

function readFile<T>(
  files: Readonly<Record<string, Uint8Array>>,
  file: string,
  check: (value: unknown) => T,
): T {
  try {
    if (!Object.hasOwn(files, file))
      refuse('archive', 'This file is not in it.', 'Choose an archive that was exported from a shelf.')
    return check(parseJson(strFromU8(files[file]), 'text'))
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    throw new ProblemError(error.problems.map((each) => ({ ...each, place: `${file}, ${each.place}` })))
  }
}

function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  let size = 0
  try {
    return unzipSync(bytes, {
      filter({ originalSize }) {
        size += originalSize
        if (size > UNPACKED)
          refuse('archive', 'It holds more than 256 MB.', 'Import its environments one by one.')
        return true
      },
    })
  } catch (error) {
    if (error instanceof ProblemError) throw error
    return refuse(
      'archive',
      'It is no zip archive, or is damaged.',
      'Choose an archive that was exported from a shelf.',
    )
  }
}
