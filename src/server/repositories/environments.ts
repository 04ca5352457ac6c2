import { kindOf, type EnvironmentDocument, type Kind } from '../../core/kinds/kinds'
import { tryCompile } from '../../core/environment/compile'
import { randomUUID } from 'node:crypto'
import { and, count, desc, eq, getTableColumns, isNotNull, isNull, sql } from 'drizzle-orm'
import { checkEnvironment } from '../../core/environment/document'
import { followBase } from '../../core/environment/apply-changes'
import { COUNTED_OUTCOMES, PICTURED_LENGTH } from '../../core/limits'
import { ProblemError } from '../../core/problem'
import type { EnvironmentRecord, EnvironmentSummary, SaveReceipt } from '../contract/environments'
import { environments, type Database } from '../db/schema'
import { keepRested } from './versions'

/** Work spent on counting a rulebook's states while it is saved: some tenths of a second. */
const COUNT_BUDGET = { rows: 20_000, happenings: 300_000 }

/** What came of a save. */
export type SaveOutcome =
  | { readonly outcome: 'saved'; readonly receipt: SaveReceipt }
  /** Somebody else saved in the meantime; nothing was overwritten. */
  | { readonly outcome: 'stale'; readonly current: SaveReceipt }
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
  const document = row.document === null ? null : readDocument(row.document)
  return {
    id: row.id,
    name: row.name,
    kind: row.kind as Kind,
    revision: row.revision,
    states: row.states,
    actions: row.actions,
    updatedAt: row.updatedAt.toISOString(),
    base,
    uncounted: !document || kindOf(document).roughOutcomes(document) > COUNTED_OUTCOMES,
    pictured: document !== null,
    note: document?.note ?? '',
  }
}

export async function getEnvironment(db: Database, id: string): Promise<EnvironmentRecord | undefined> {
  const row = await rowOf(db, id)
  if (!row) return undefined
  const base = row.baseId === null ? undefined : await rowOf(db, row.baseId)
  return {
    id,
    revision: row.revision,
    updatedAt: row.updatedAt.toISOString(),
    document: readDocument(row.document),
    base: base ? { id: base.id, name: base.name, document: readDocument(base.document) } : null,
  }
}

export async function createEnvironment(
  db: Database,
  document: EnvironmentDocument,
  now = new Date(),
  baseId: string | null = null,
): Promise<EnvironmentRecord> {
  const id = randomUUID()
  await db
    .insert(environments)
    .values({ id, revision: 1, createdAt: now, updatedAt: now, baseId, ...columnsOf(document) })
  return (await getEnvironment(db, id))!
}

/** A variant: it begins as its base is, and follows it in all that it does not say otherwise. */
export async function createVariant(
  db: Database,
  baseId: string,
  name: string,
): Promise<EnvironmentRecord | undefined> {
  const base = await rowOf(db, baseId)
  return base && createEnvironment(db, { ...readDocument(base.document), name }, new Date(), baseId)
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
  const current = await rowOf(db, id)
  if (!current) return { outcome: 'missing' }
  if (current.revision === revision && (await overwrite(db, current, document, updatedAt)))
    return { outcome: 'saved', receipt: { revision: revision + 1, updatedAt: updatedAt.toISOString() } }
  const newer = (await rowOf(db, id)) ?? current
  return {
    outcome: 'stale',
    current: { revision: newer.revision, updatedAt: newer.updatedAt.toISOString() },
  }
}

type Row = typeof environments.$inferSelect

/** @returns false when somebody else saved since the row was read; nothing was overwritten then */
async function overwrite(
  db: Database,
  current: Row,
  document: EnvironmentDocument,
  updatedAt: Date,
): Promise<boolean> {
  const { id, revision } = current
  await keepRested(db, id, current, document, updatedAt)
  const saved = await db
    .update(environments)
    .set({ ...columnsOf(document), revision: revision + 1, updatedAt })
    .where(and(eq(environments.id, id), eq(environments.revision, revision), isNull(environments.deletedAt)))
  if (saved.rowsAffected !== 1) return false
  await bringVariantsAlong(db, current, document, updatedAt)
  return true
}

async function bringVariantsAlong(
  db: Database,
  before: Row,
  after: EnvironmentDocument,
  now: Date,
): Promise<void> {
  const variants = await db
    .select()
    .from(environments)
    .where(and(eq(environments.baseId, before.id), isNull(environments.deletedAt)))
  if (!variants.length) return
  const old = readDocument(before.document)
  for (const variant of variants) {
    const followed = following(readDocument(variant.document), old, after)
    // One that is being changed at this very moment keeps its own.
    if (JSON.stringify(followed) !== variant.document) await overwrite(db, variant, followed, now)
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
  const original = await getEnvironment(db, id)
  if (!original) return undefined
  const name = `${original.document.name.slice(0, 112)} (copy)`
  return createEnvironment(db, { ...original.document, name })
}

/** Renames without touching anything else; counts as a save. */
export async function renameEnvironment(db: Database, id: string, name: string): Promise<SaveOutcome> {
  const current = await getEnvironment(db, id)
  return current
    ? saveEnvironment(db, id, current.revision, { ...current.document, name })
    : { outcome: 'missing' }
}

/** @returns false when there was nothing to delete */
export async function deleteEnvironment(db: Database, id: string): Promise<boolean> {
  const result = await db
    .update(environments)
    .set({ deletedAt: new Date() })
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return result.rowsAffected === 1
}

/** Takes a deletion back; a variant has not followed its base meanwhile. @returns false when there was none */
export async function restoreEnvironment(db: Database, id: string): Promise<boolean> {
  const result = await db
    .update(environments)
    .set({ deletedAt: null })
    .where(and(eq(environments.id, id), isNotNull(environments.deletedAt)))
  return result.rowsAffected === 1
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

function readDocument(text: string): EnvironmentDocument {
  return checkEnvironment(JSON.parse(text))
}
