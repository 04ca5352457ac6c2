import { randomUUID } from 'node:crypto'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Comparison } from '../../core/compare/comparison'
import type { ComparisonSummary } from '../contract/comparisons'
import { comparisons, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { nameOnShelf } from './environments'
import { parseStored } from './stored'

/** Comparisons of one environment that are listed at the most. */
const LISTED = 200

/** The comparisons of an environment, the one changed last in front. */
export async function listComparisons(db: Database, environmentId: string): Promise<ComparisonSummary[]> {
  const rows = await db
    .select({ id: comparisons.id, name: comparisons.name, updatedAt: comparisons.updatedAt })
    .from(comparisons)
    .where(and(eq(comparisons.environmentId, environmentId), isNull(comparisons.deletedAt)))
    .orderBy(desc(comparisons.updatedAt), desc(comparisons.id))
    .limit(LISTED)
  return rows.map(({ updatedAt, ...row }) => ({ ...row, updatedAt: updatedAt.toISOString() }))
}

/** @returns undefined when the environment is not on the shelf */
export async function insertComparison(
  db: Database,
  environmentId: string,
  comparison: Comparison,
  now = new Date(),
): Promise<ComparisonSummary | undefined> {
  const { name } = comparison
  const row = { id: randomUUID(), environmentId, name, createdAt: now, updatedAt: now }
  return inTransaction(db, async (tx) => {
    if ((await nameOnShelf(tx, environmentId)) === undefined) return undefined
    await tx.insert(comparisons).values({ ...row, content: contentOf(comparison) })
    return { id: row.id, name, updatedAt: now.toISOString() }
  })
}

/** @returns what was kept, to be checked against its environment */
export async function getComparison(
  db: Database,
  id: string,
): Promise<{ readonly environmentId: string; readonly content: unknown } | undefined> {
  const [row] = await db
    .select({ environmentId: comparisons.environmentId, content: comparisons.content })
    .from(comparisons)
    .where(and(eq(comparisons.id, id), isNull(comparisons.deletedAt)))
  return row && { environmentId: row.environmentId, content: parseStored(row.content, 'comparison') }
}

/** @returns whether there was one */
export async function updateComparison(db: Database, id: string, comparison: Comparison): Promise<boolean> {
  const { name } = comparison
  return inTransaction(db, async (tx) => {
    const changed = await tx
      .update(comparisons)
      .set({ name, content: contentOf(comparison), updatedAt: new Date() })
      .where(and(eq(comparisons.id, id), isNull(comparisons.deletedAt)))
    return changed.rowsAffected > 0
  })
}

/** Lays it into the bin. @returns whether there was one */
export async function deleteComparison(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const gone = await tx
      .update(comparisons)
      .set({ deletedAt: new Date() })
      .where(and(eq(comparisons.id, id), isNull(comparisons.deletedAt)))
    return gone.rowsAffected > 0
  })
}

/** Its environment stands on the shelf. */
function contentOf({ environment: _, ...comparison }: Comparison): string {
  return JSON.stringify(comparison)
}
