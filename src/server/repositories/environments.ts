import { randomUUID } from 'node:crypto'
import { and, count, desc, eq, isNotNull, isNull } from 'drizzle-orm'
import {
  checkEnvironment,
  compileEnvironment,
  type EnvironmentDocument,
  type Kind,
} from '../../core/environment/document'
import { ProblemError } from '../../core/problem'
import type { EnvironmentRecord, EnvironmentSummary, SaveReceipt } from '../contract/environments'

import { environments, type Database } from '../db/schema'

/** Documents above this many characters are left out of the shelf's listing. */
const PICTURE_LIMIT = 200_000
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
    .select()
    .from(environments)
    .where(isNull(environments.deletedAt))
    .orderBy(desc(environments.updatedAt), environments.name)
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    kind: row.kind as Kind,
    revision: row.revision,
    states: row.states,
    actions: row.actions,
    updatedAt: row.updatedAt.toISOString(),
    document: row.document.length <= PICTURE_LIMIT ? readDocument(row.document) : null,
  }))
}

export async function getEnvironment(db: Database, id: string): Promise<EnvironmentRecord | undefined> {
  const [row] = await db
    .select()
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return (
    row && {
      id,
      revision: row.revision,
      updatedAt: row.updatedAt.toISOString(),
      document: readDocument(row.document),
    }
  )
}

export async function createEnvironment(
  db: Database,
  document: EnvironmentDocument,
  now = new Date(),
): Promise<EnvironmentRecord> {
  const id = randomUUID()
  await db
    .insert(environments)
    .values({ id, revision: 1, createdAt: now, updatedAt: now, ...columnsOf(document) })
  return { id, revision: 1, updatedAt: now.toISOString(), document }
}

/** Saves a document over the revision it was made from. */
export async function saveEnvironment(
  db: Database,
  id: string,
  revision: number,
  document: EnvironmentDocument,
): Promise<SaveOutcome> {
  const updatedAt = new Date()
  const saved = await db
    .update(environments)
    .set({ ...columnsOf(document), revision: revision + 1, updatedAt })
    .where(and(eq(environments.id, id), eq(environments.revision, revision), isNull(environments.deletedAt)))
  if (saved.rowsAffected === 1)
    return { outcome: 'saved', receipt: { revision: revision + 1, updatedAt: updatedAt.toISOString() } }
  const current = await getEnvironment(db, id)
  return current
    ? { outcome: 'stale', current: { revision: current.revision, updatedAt: current.updatedAt } }
    : { outcome: 'missing' }
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

/** Takes a deletion back. @returns false when there was none */
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
  try {
    const { model } = compileEnvironment(document, COUNT_BUDGET)
    return { states: model.states, actions: model.actions.length }
  } catch (error) {
    // Half-made environments are kept all the same; so are those too large to count in passing.
    if (error instanceof ProblemError) return { states: null, actions: null }
    throw error
  }
}

function readDocument(text: string): EnvironmentDocument {
  return checkEnvironment(JSON.parse(text))
}
