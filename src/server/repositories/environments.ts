import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { randomUUID } from 'node:crypto'
import { DIRECT_WORKERS, type DocumentWorkers } from '../../hosts/node/document-workers'
import { storedDocument, type Size, type StoredDocument } from '../../hosts/node/document-tasks'
import { and, count, desc, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/sqlite-core'
import { PICTURED_LENGTH } from '../../core/limits'
import { ProblemError, refuse } from '../../core/problem'
import type { EnvironmentRecord, SaveReceipt } from '../contract/environments'
import { environments, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { readableDocument, readDocument, timeText } from './stored'
import { keepRested, keepVersion, versionAt } from './versions'

/** What came of a save. */
export type SaveOutcome =
  | { readonly outcome: 'saved'; readonly receipt: SaveReceipt }
  /** Somebody else saved in the meantime, or it followed its base since, and nothing else; nothing was overwritten. */
  | { readonly outcome: 'stale'; readonly current: SaveReceipt; readonly followed: boolean }
  | { readonly outcome: 'missing' }

/** @throws ProblemError where it is there and cannot be read */
export async function getEnvironment(db: Database, id: string): Promise<EnvironmentRecord | undefined> {
  const row = await rowOf(db, id)
  if (!row) return undefined
  const base = row.baseId === null ? undefined : await rowOf(db, row.baseId)
  const document = readDocument(row.document)
  const baseDocument = base && readableDocument(base.document)
  return {
    id,
    revision: row.revision,
    updatedAt: timeText(row.updatedAt),
    document,
    base: base && baseDocument ? { id: base.id, name: base.name, document: baseDocument } : null,
  }
}

/** What an environment is called; undefined where it is not on the shelf. */
export async function nameOnShelf(db: Database, id: string): Promise<string | undefined> {
  const [row] = await db
    .select({ name: environments.name })
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row?.name
}

/** Of an environment what is known without reading its document. */
export async function headOfEnvironment(
  db: Database,
  id: string,
): Promise<{ readonly revision: number; readonly pictured: boolean } | undefined> {
  const [row] = await db
    .select({ revision: environments.revision, length: sql<number>`octet_length(${environments.document})` })
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row && { revision: row.revision, pictured: row.length <= PICTURED_LENGTH }
}

/** A stamp that every change of an environment, or of its base, alters; null where it is not there. */
export async function stampOfEnvironment(db: Database, id: string): Promise<string | null> {
  const base = alias(environments, 'base')
  const [row] = await db
    .select({
      revision: environments.revision,
      updatedAt: environments.updatedAt,
      length: sql`octet_length(${environments.document})`,
      baseRevision: base.revision,
      baseUpdatedAt: base.updatedAt,
      baseLength: sql`octet_length(${base.document})`,
      baseDeletedAt: base.deletedAt,
    })
    .from(environments)
    .leftJoin(base, eq(base.id, environments.baseId))
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row ? JSON.stringify(row) : null
}

/** What stands in the database for an environment, to the letter, whether it can be read or not. */
export async function textOfEnvironment(db: Database, id: string): Promise<string | undefined> {
  return (await rowOf(db, id))?.document
}

/**
 * Puts a document on the shelf.
 * @param size  how large its model is; counted later where that is not known yet
 */
export async function createEnvironment(
  db: Database,
  document: EnvironmentDocument | StoredDocument,
  now = new Date(),
  baseId: string | null = null,
  size: Size | null = null,
): Promise<SaveReceipt & { readonly id: string }> {
  const id = randomUUID()
  const columns = columnsOf(document, size)
  await inTransaction(db, (tx) =>
    tx.insert(environments).values({ id, revision: 1, createdAt: now, updatedAt: now, baseId, ...columns }),
  )
  return { id, revision: 1, updatedAt: now.toISOString() }
}

/** A variant: it begins as its base is, and follows it in all that it does not say otherwise. */
export async function createVariant(
  db: Database,
  baseId: string,
  name: string,
  workers = DIRECT_WORKERS,
): Promise<EnvironmentRecord | undefined> {
  for (let tried = 0; tried < TRIES; tried++) {
    const base = await rowOf(db, baseId)
    if (!base) return undefined
    const document = await workers.do('rename', { text: base.document, name })
    const made = await inTransaction(db, async (tx) => {
      // It would miss what its base became meanwhile.
      if ((await rowOf(tx, baseId))?.revision !== base.revision) return null
      return createEnvironment(tx, document, new Date(), baseId, sizeIn(base))
    })
    if (made) return getEnvironment(db, made.id)
  }
  return busyVariants()
}

/** How often a save begins anew because variants of the environment were changed at that very moment. */
const TRIES = 8
/** Rows that are written before others are let in. */
const PART = 10

/**
 * Saves a document over the revision it was made from. Its variants follow, and what is overwritten is kept as a
 * version if it had rested: all of it, or nothing.
 */
export async function saveEnvironment(
  db: Database,
  id: string,
  revision: number,
  document: EnvironmentDocument | StoredDocument,
  updatedAt = new Date(),
  workers = DIRECT_WORKERS,
): Promise<SaveOutcome> {
  const columns = columnsOf(document, null)
  for (let tried = 0; tried < TRIES; tried++) {
    const current = await rowOf(db, id)
    if (!current) return { outcome: 'missing' }
    if (current.revision !== revision)
      return {
        outcome: 'stale',
        current: { revision: current.revision, updatedAt: timeText(current.updatedAt) },
        followed: current.edited <= revision,
      }
    const edited = revision + 1
    const changes = await changesWith(db, current, { ...columns, edited }, workers)
    if (await inTransaction(db, (tx) => writeIfUnchanged(tx, changes, updatedAt)))
      return { outcome: 'saved', receipt: { revision: edited, updatedAt: updatedAt.toISOString() } }
  }
  return busyVariants()
}

function busyVariants(): never {
  return refuse(
    'environment',
    'It or its variants are being changed all the time.',
    'Try again when others have finished.',
  )
}

type Row = typeof environments.$inferSelect

/** What an environment was, and what is to be written over it. */
interface RowChange {
  readonly row: Row
  readonly columns: ReturnType<typeof columnsOf> & { readonly edited?: number }
  /** How many variants it has. */
  variants: number
}

/** A change with all that follows from it: variants, and what follows those. Worked out before anything is written. */
async function changesWith(
  db: Database,
  row: Row,
  columns: RowChange['columns'],
  workers: DocumentWorkers,
): Promise<RowChange[]> {
  const changes: RowChange[] = [{ row, columns, variants: 0 }]
  // Those that are found on the way are looked at in their turn.
  for (const change of changes) {
    const variants = await db
      .select()
      .from(environments)
      .where(and(eq(environments.baseId, change.row.id), isNull(environments.deletedAt)))
    change.variants = variants.length
    if (!variants.length) continue
    const followed = await workers.do('follow', {
      before: change.row.document,
      after: change.columns.document,
      variants: variants.map(({ document }) => document),
    })
    for (const [i, document] of followed.entries())
      // None follows itself, even where a damaged database says so.
      if (document && changes.every(({ row: met }) => met.id !== variants[i].id))
        changes.push({ row: variants[i], columns: columnsOf(document, null), variants: 0 })
  }
  return changes
}

/** @returns false, with nothing written, when something was changed since it was worked out, or a variant was added */
async function writeIfUnchanged(
  tx: Database,
  changes: readonly RowChange[],
  updatedAt: Date,
): Promise<boolean> {
  for (const [i, { row, variants }] of changes.entries()) {
    if (i % PART === PART - 1) await new Promise((resolve) => setImmediate(resolve))
    const [now] = await tx
      .select({ revision: environments.revision, deletedAt: environments.deletedAt })
      .from(environments)
      .where(eq(environments.id, row.id))
    const [{ count: following }] = await tx
      .select({ count: count() })
      .from(environments)
      .where(and(eq(environments.baseId, row.id), isNull(environments.deletedAt)))
    if (now?.revision !== row.revision || now.deletedAt || following !== variants) return false
  }
  for (const [i, { row, columns }] of changes.entries()) {
    // Between many, others are let in.
    if (i % PART === PART - 1) await new Promise((resolve) => setImmediate(resolve))
    await keepRested(tx, row.id, row, columns.document, updatedAt)
    await tx
      .update(environments)
      .set({ ...columns, revision: row.revision + 1, updatedAt })
      .where(eq(environments.id, row.id))
  }
  return true
}

async function rowOf(db: Database, id: string): Promise<Row | undefined> {
  const [row] = await db
    .select()
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row
}

export async function duplicateEnvironment(
  db: Database,
  id: string,
  workers = DIRECT_WORKERS,
): Promise<EnvironmentRecord | undefined> {
  const original = await rowOf(db, id)
  if (!original) return undefined
  const name = `${original.name.slice(0, 112)} (copy)`
  const document = await workers.do('rename', { text: original.document, name })
  const copy = await createEnvironment(db, document, new Date(), null, sizeIn(original))
  return getEnvironment(db, copy.id)
}

/** Renames without touching anything else; counts as a save. */
export async function renameEnvironment(
  db: Database,
  id: string,
  name: string,
  workers = DIRECT_WORKERS,
): Promise<SaveOutcome> {
  const current = await rowOf(db, id)
  if (!current) return { outcome: 'missing' }
  const document = await workers.do('rename', { text: current.document, name })
  return saveEnvironment(db, id, current.revision, document, new Date(), workers)
}

/** Lays it into the bin. @returns false when there was nothing to delete */
export async function deleteEnvironment(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const result = await tx
      .update(environments)
      .set({ deletedAt: new Date() })
      .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
    return result.rowsAffected === 1
  })
}

/** Takes it out of the bin; a variant follows what its base became meanwhile. @returns false when it was not there */
export async function restoreEnvironment(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const result = await tx
      .update(environments)
      .set({ deletedAt: null })
      .where(and(eq(environments.id, id), isNotNull(environments.deletedAt)))
    if (result.rowsAffected !== 1) return false
    const variant = (await rowOf(tx, id))!
    await catchUp(tx, variant)
    return true
  })
}

/**
 * Brings along the variants that did not follow their base: the program was ended between the two, before both were one
 * change. What each was is kept as a version.
 * @returns their names
 */
export async function bringStragglersAlong(db: Database): Promise<string[]> {
  const bases = alias(environments, 'bases')
  const late = await db
    .select({ variant: environments })
    .from(environments)
    .innerJoin(bases, eq(environments.baseId, bases.id))
    .where(
      and(
        isNull(environments.deletedAt),
        isNull(bases.deletedAt),
        gt(bases.updatedAt, environments.updatedAt),
      ),
    )
  if (!late.length) return []
  return inTransaction(db, async (tx) => {
    const names: string[] = []
    for (const { variant } of late) if (await catchUp(tx, variant)) names.push(variant.name)
    return names
  })
}

/**
 * Lets a variant follow its base from what that was when the variant was last changed, as far as that was kept.
 * @returns whether anything changed
 */
async function catchUp(tx: Database, variant: Row): Promise<boolean> {
  const base = variant.baseId === null ? undefined : await rowOf(tx, variant.baseId)
  if (!base || base.updatedAt <= variant.updatedAt) return false
  const before = await versionAt(tx, base.id, variant.updatedAt)
  if (!before) return false
  const [followed] = await DIRECT_WORKERS.do('follow', {
    before,
    after: base.document,
    variants: [variant.document],
  })
  if (!followed) return false
  await keepVersion(tx, variant.id, `before following ${base.name}`.slice(0, 120))
  const changes = await changesWith(tx, variant, columnsOf(followed, null), DIRECT_WORKERS)
  return writeIfUnchanged(tx, changes, base.updatedAt)
}

/** How many environments there are, deleted ones included. */
export async function countEnvironments(db: Database): Promise<number> {
  const [row] = await db.select({ count: count() }).from(environments)
  return row.count
}

/** Counts the states of those that were not counted since they were changed. */
export async function countWaiting(db: Database, workers = DIRECT_WORKERS): Promise<void> {
  for (;;) {
    const [row] = await db
      .select({ id: environments.id, revision: environments.revision, document: environments.document })
      .from(environments)
      .where(and(eq(environments.counted, false), isNull(environments.deletedAt)))
      .orderBy(desc(environments.updatedAt))
      .limit(1)
    if (!row) return
    const size = await workers.do('size', { text: row.document }).catch((error: unknown) => {
      // What takes too long is not counted in passing.
      if (error instanceof ProblemError) return { states: null, actions: null }
      throw error
    })
    await inTransaction(db, (tx) =>
      tx
        .update(environments)
        .set({ ...size, counted: true })
        // What was changed meanwhile is counted anew.
        .where(and(eq(environments.id, row.id), eq(environments.revision, row.revision))),
    )
  }
}

function columnsOf(document: EnvironmentDocument | StoredDocument, size: Size | null) {
  const { kind, name, text } = 'text' in document ? document : storedDocument(document)
  return { kind, name, document: text, ...(size ?? { states: null, actions: null }), counted: size !== null }
}

/** What is known of the size of a model. */
function sizeIn({ states, actions, counted }: Row): Size | null {
  return counted ? { states, actions } : null
}
