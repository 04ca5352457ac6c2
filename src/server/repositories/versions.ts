import { randomUUID } from 'node:crypto'
import { and, desc, eq, inArray, isNull, lte, sql } from 'drizzle-orm'
import type { VersionRecord, VersionSummary } from '../contract/environments'
import { environments, versions, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { readDocument, timeText } from './stored'

/** An environment that rested for so long is kept before it is changed again, in milliseconds. */
const REST = 120_000
/** Versions without a name that are kept of one environment; the oldest but the first go first. */
const UNNAMED = 50
/** Larger for what was kept later, whatever the clock said then. */
const KEPT_LAST = sql`${versions}.rowid`

/** The versions of an environment, the latest in front. */
export async function listVersions(db: Database, id: string): Promise<VersionSummary[]> {
  const rows = await db
    .select({ id: versions.id, name: versions.name, createdAt: versions.createdAt })
    .from(versions)
    .where(eq(versions.environmentId, id))
    .orderBy(desc(KEPT_LAST))
  return rows.map((row) => ({ ...row, createdAt: timeText(row.createdAt) }))
}

/** What an environment was at a time, as JSON, as far as a version tells; undefined where none does. */
export async function versionAt(db: Database, id: string, time: Date): Promise<string | undefined> {
  const [row] = await db
    .select({ document: versions.document })
    .from(versions)
    .where(and(eq(versions.environmentId, id), lte(versions.createdAt, time)))
    .orderBy(desc(versions.createdAt), desc(KEPT_LAST))
    .limit(1)
  return row?.document
}

export async function getVersion(
  db: Database,
  id: string,
  version: string,
): Promise<VersionRecord | undefined> {
  const [row] = await db
    .select()
    .from(versions)
    .where(and(eq(versions.environmentId, id), eq(versions.id, version)))
  return (
    row && {
      id: row.id,
      name: row.name,
      createdAt: timeText(row.createdAt),
      document: readDocument(row.document),
    }
  )
}

/** What a version of an environment or a lesson says, as JSON; undefined where there is none. */
export async function versionText(db: Database, id: string, version: string): Promise<string | undefined> {
  const [row] = await db
    .select({ document: versions.document })
    .from(versions)
    .where(and(eq(versions.environmentId, id), eq(versions.id, version)))
  return row?.document
}

/** Keeps what somebody named, as JSON. */
export async function keepText(
  db: Database,
  id: string,
  name: string,
  text: string,
): Promise<VersionSummary> {
  return insertVersion(db, id, name, text, new Date())
}

/** Keeps an environment as it is on the shelf now. @returns undefined when it is not there */
export async function keepVersion(
  db: Database,
  id: string,
  name: string | null,
): Promise<VersionSummary | undefined> {
  return inTransaction(db, async (tx) => {
    const [row] = await tx
      .select({ document: environments.document })
      .from(environments)
      .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
    return row && insertVersion(tx, id, name, row.document, new Date())
  })
}

/**
 * Called before a document is overwritten: keeps it when it is the first one, or has rested for a while, so that a
 * burst of edits leaves one version.
 */
export async function keepRested(
  db: Database,
  id: string,
  current: { readonly document: string; readonly updatedAt: Date },
  next: string,
  now: Date,
): Promise<void> {
  if (current.document === next) return
  const [latest] = await db
    .select({ document: versions.document })
    .from(versions)
    .where(eq(versions.environmentId, id))
    .orderBy(desc(KEPT_LAST))
    .limit(1)
  // A clock that was ahead says nothing of how long it rested.
  const rested = now.getTime() - current.updatedAt.getTime()
  if (latest && rested >= 0 && rested < REST) return
  if (latest?.document === current.document) return
  await insertVersion(db, id, null, current.document, current.updatedAt)
  const unnamed = await db
    .select({ id: versions.id })
    .from(versions)
    .where(and(eq(versions.environmentId, id), isNull(versions.name)))
    .orderBy(desc(KEPT_LAST))
  // The very first one stays.
  const old = unnamed.slice(UNNAMED - 1, -1).map((row) => row.id)
  if (old.length) await db.delete(versions).where(inArray(versions.id, old))
}

async function insertVersion(
  db: Database,
  environmentId: string,
  name: string | null,
  document: string,
  createdAt: Date,
): Promise<VersionSummary> {
  const id = randomUUID()
  await db.insert(versions).values({ id, environmentId, name, document, createdAt })
  return { id, name, createdAt: createdAt.toISOString() }
}
