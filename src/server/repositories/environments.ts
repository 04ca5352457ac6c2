import { kindOf, type EnvironmentDocument, type Kind } from '../../core/kinds/kinds'
import { KIND_NAMES } from '../../core/kinds/outlines'
import { tryCompile } from '../../core/environment/compile'
import { randomUUID } from 'node:crypto'
import { and, count, desc, eq, getTableColumns, gt, isNotNull, isNull, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/sqlite-core'
import { followBase } from '../../core/environment/apply-changes'
import { COUNTED_OUTCOMES, PICTURED_LENGTH } from '../../core/limits'
import { ProblemError } from '../../core/problem'
import type { EnvironmentRecord, EnvironmentSummary, SaveReceipt } from '../contract/environments'
import { environments, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { readableDocument, readDocument, timeText, tryReadDocument } from './stored'
import { keepRested, keepVersion, versionAt } from './versions'

/** Work spent on counting a rulebook's states while it is saved: some tenths of a second. */
const COUNT_BUDGET = { rows: 20_000, happenings: 300_000 }

/** What came of a save. */
export type SaveOutcome =
  | { readonly outcome: 'saved'; readonly receipt: SaveReceipt }
  /** Somebody else saved in the meantime, or it followed its base since, and nothing else; nothing was overwritten. */
  | { readonly outcome: 'stale'; readonly current: SaveReceipt; readonly followed: boolean }
  | { readonly outcome: 'missing' }

/** The shelf, the environment changed last in front. */
export async function listEnvironments(db: Database): Promise<EnvironmentSummary[]> {
  const rows = await db
    .select({
      ...getTableColumns(environments),
      // Large ones are not even read: the shelf has no picture of them.
      document: sql<
        string | null
      >`iif(length(${environments.document}) <= ${PICTURED_LENGTH}, ${environments.document}, null)`,
    })
    .from(environments)
    .where(isNull(environments.deletedAt))
    .orderBy(desc(environments.updatedAt), environments.name)
  const named = new Map(rows.map(({ id, name }) => [id, { id, name }]))
  return rows.map((row) => summaryOf(row, named.get(row.baseId ?? '') ?? null))
}

type SummaryRow = Omit<typeof environments.$inferSelect, 'document'> & { readonly document: string | null }

function summaryOf(row: SummaryRow, base: EnvironmentSummary['base']): EnvironmentSummary {
  const read = row.document === null ? null : tryReadDocument(row.document)
  const document = read && 'document' in read ? read.document : null
  const kind = kindNamed(row.kind)
  return {
    id: row.id,
    name: String(row.name),
    kind: kind ?? 'grid',
    revision: row.revision,
    states: row.states,
    actions: row.actions,
    updatedAt: timeText(row.updatedAt),
    base,
    uncounted: !document || kindOf(document).roughOutcomes(document) > COUNTED_OUTCOMES,
    pictured: document !== null,
    note: document?.note ?? '',
    damage: !kind
      ? `There is no kind of environment called “${row.kind}” in this version.`
      : read && 'damage' in read
        ? read.damage
        : null,
  }
}

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

/** What stands in the database for an environment, to the letter, whether it can be read or not. */
export async function textOfEnvironment(db: Database, id: string): Promise<string | undefined> {
  return (await rowOf(db, id))?.document
}

export async function createEnvironment(
  db: Database,
  document: EnvironmentDocument,
  now = new Date(),
  baseId: string | null = null,
): Promise<EnvironmentRecord> {
  const id = randomUUID()
  const columns = columnsOf(document)
  return inTransaction(db, async (tx) => {
    await tx
      .insert(environments)
      .values({ id, revision: 1, createdAt: now, updatedAt: now, baseId, ...columns })
    return (await getEnvironment(tx, id))!
  })
}

/** A variant: it begins as its base is, and follows it in all that it does not say otherwise. */
export async function createVariant(
  db: Database,
  baseId: string,
  name: string,
): Promise<EnvironmentRecord | undefined> {
  return inTransaction(db, async (tx) => {
    const base = await rowOf(tx, baseId)
    return base && createEnvironment(tx, { ...readDocument(base.document), name }, new Date(), baseId)
  })
}

/**
 * Saves a document over the revision it was made from. Its variants follow, and what is overwritten is kept as a
 * version if it had rested.
 */
export async function saveEnvironment(
  db: Database,
  id: string,
  revision: number,
  document: EnvironmentDocument,
  updatedAt = new Date(),
): Promise<SaveOutcome> {
  const columns = columnsOf(document)
  return inTransaction(db, async (tx): Promise<SaveOutcome> => {
    const current = await rowOf(tx, id)
    if (!current) return { outcome: 'missing' }
    if (current.revision !== revision)
      return {
        outcome: 'stale',
        current: { revision: current.revision, updatedAt: timeText(current.updatedAt) },
        followed: current.edited <= revision,
      }
    const edited = revision + 1
    await overwrite(tx, current, document, { ...columns, edited }, updatedAt)
    return { outcome: 'saved', receipt: { revision: edited, updatedAt: updatedAt.toISOString() } }
  })
}

type Row = typeof environments.$inferSelect

/** Writes a document over what was there; its variants follow. Only within a transaction. */
async function overwrite(
  tx: Database,
  current: Row,
  document: EnvironmentDocument,
  columns: ReturnType<typeof columnsOf> & { readonly edited?: number },
  updatedAt: Date,
): Promise<void> {
  const { id, revision } = current
  await keepRested(tx, id, current, columns.document, updatedAt)
  await tx
    .update(environments)
    .set({ ...columns, revision: revision + 1, updatedAt })
    .where(eq(environments.id, id))
  await bringVariantsAlong(tx, current, document, updatedAt)
}

async function bringVariantsAlong(
  tx: Database,
  before: Row,
  after: EnvironmentDocument,
  now: Date,
): Promise<void> {
  const variants = await tx
    .select()
    .from(environments)
    .where(and(eq(environments.baseId, before.id), isNull(environments.deletedAt)))
  const old = variants.length ? readableDocument(before.document) : undefined
  if (!old) return
  for (const variant of variants) {
    const own = readableDocument(variant.document)
    // One that cannot be read stays as it is.
    const followed = own && following(own, old, after)
    if (followed && JSON.stringify(followed) !== variant.document)
      await overwrite(tx, variant, followed, columnsOf(followed), now)
  }
}

/** Where nothing sound would come of following, a variant stays as it is. */
function following(
  variant: EnvironmentDocument,
  before: EnvironmentDocument,
  after: EnvironmentDocument,
): EnvironmentDocument {
  try {
    const followed = followBase(variant, before, after)
    kindOf(followed).checkShape(followed)
    return followed
  } catch (error) {
    if (error instanceof ProblemError) return variant
    throw error
  }
}

async function rowOf(db: Database, id: string): Promise<Row | undefined> {
  const [row] = await db
    .select()
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row
}

export async function duplicateEnvironment(db: Database, id: string): Promise<EnvironmentRecord | undefined> {
  return inTransaction(db, async (tx) => {
    const original = await getEnvironment(tx, id)
    if (!original) return undefined
    const name = `${original.document.name.slice(0, 112)} (copy)`
    return createEnvironment(tx, { ...original.document, name })
  })
}

/** Renames without touching anything else; counts as a save. */
export async function renameEnvironment(db: Database, id: string, name: string): Promise<SaveOutcome> {
  return inTransaction(db, async (tx): Promise<SaveOutcome> => {
    const current = await getEnvironment(tx, id)
    return current
      ? saveEnvironment(tx, id, current.revision, { ...current.document, name })
      : { outcome: 'missing' }
  })
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
  const known = await versionAt(tx, base.id, variant.updatedAt)
  const [before, after, own] = [known, base.document, variant.document].map(
    (text) => text && readableDocument(text),
  )
  if (!before || !after || !own) return false
  const followed = following(own, before, after)
  if (JSON.stringify(followed) === variant.document) return false
  await keepVersion(tx, variant.id, `before following ${base.name}`.slice(0, 120))
  await overwrite(tx, variant, followed, columnsOf(followed), base.updatedAt)
  return true
}

/** How many environments there are, deleted ones included. */
export async function countEnvironments(db: Database): Promise<number> {
  const [row] = await db.select({ count: count() }).from(environments)
  return row.count
}

function columnsOf(document: EnvironmentDocument) {
  return {
    name: document.name,
    kind: document.kind,
    document: JSON.stringify(document),
    ...sizeOf(document),
  }
}

function sizeOf(document: EnvironmentDocument): { states: number | null; actions: number | null } {
  // Where nobody knows beforehand how many there are, they are counted as far as the budget goes.
  const outcomes = kindOf(document).roughOutcomes(document)
  if (outcomes > COUNTED_OUTCOMES && outcomes < Infinity) return { states: null, actions: null }
  // Half-made environments are kept all the same; so are those too large to count in passing.
  const result = tryCompile(document, COUNT_BUDGET)
  if (!result.ok) return { states: null, actions: null }
  const { model } = result.compiled
  return { states: model.states, actions: model.actions.length }
}

function kindNamed(name: string): Kind | undefined {
  return KIND_NAMES.find((kind) => kind === name)
}
