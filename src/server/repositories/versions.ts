import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { randomUUID } from 'node:crypto'
import { and, desc, eq, inArray, isNull } from 'drizzle-orm'
import { checkEnvironment } from '../../core/environment/document'
import type { VersionRecord, VersionSummary } from '../contract/environments'
import { environments, versions, type Database } from '../db/schema'

/** An environment that rested for so long is kept before it is changed again, in milliseconds. */
const REST = 120_000
/** Versions without a name that are kept of one environment; the oldest go first. */
const UNNAMED = 50

/** The versions of an environment, the latest in front. */
export async function listVersions(db: Database, id: string): Promise<VersionSummary[]> {
  const rows = await db
    .select({ id: versions.id, name: versions.name, createdAt: versions.createdAt })
    .from(versions)
    .where(eq(versions.environmentId, id))
    .orderBy(desc(versions.createdAt), desc(versions.id))
  return rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString() }))
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
      createdAt: row.createdAt.toISOString(),
      document: checkEnvironment(JSON.parse(row.document)),
    }
  )
}

/** Keeps an environment as it is on the shelf now. @returns undefined when it is not there */
export async function keepVersion(
  db: Database,
  id: string,
  name: string | null,
): Promise<VersionSummary | undefined> {
  const [row] = await db
    .select({ document: environments.document })
    .from(environments)
    .where(and(eq(environments.id, id), isNull(environments.deletedAt)))
  return row && insertVersion(db, id, name, row.document, new Date())
}

/**
 * Called before a document is overwritten: keeps it when it is the first one, or has rested for a while, so that a
 * burst of edits leaves one version.
 */
export async function keepRested(
  db: Database,
  id: string,
  current: { readonly document: string; readonly updatedAt: Date },
  next: EnvironmentDocument,
  now: Date,
): Promise<void> {
  if (current.document === JSON.stringify(next)) return
  const [latest] = await db
    .select({ document: versions.document })
    .from(versions)
    .where(eq(versions.environmentId, id))
    .orderBy(desc(versions.createdAt), desc(versions.id))
    .limit(1)
  if (latest && now.getTime() - current.updatedAt.getTime() < REST) return
  if (latest?.document === current.document) return
  await insertVersion(db, id, null, current.document, current.updatedAt)
  const unnamed = await db
    .select({ id: versions.id })
    .from(versions)
    .where(and(eq(versions.environmentId, id), isNull(versions.name)))
    .orderBy(desc(versions.createdAt), desc(versions.id))
  const old = unnamed.slice(UNNAMED).map((row) => row.id)
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
