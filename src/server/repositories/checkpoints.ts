import { checkCheckpoint } from '../../core/learn/read-checkpoint'
import { randomUUID } from 'node:crypto'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Checkpoint } from '../../core/learn/checkpoint'
import type { StoredTable } from '../../hosts/node/document-tasks'
import type { TableHolds } from '../../core/learn/learner'
import type { LearnMethodId } from '../../core/learn/methods/methods'
import type { CheckpointSummary } from '../contract/checkpoints'
import { checkpoints, environments, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { nameOnShelf } from './environments'
import { parseStored } from './stored'

/** Checkpoints that are listed at the most. */
const LISTED = 200

/** The checkpoints of the whole shelf, the latest in front: tables can be carried from one environment to another. */
export async function listCheckpoints(db: Database): Promise<CheckpointSummary[]> {
  const rows = await db
    .select({
      id: checkpoints.id,
      name: checkpoints.name,
      environmentId: checkpoints.environmentId,
      environmentName: environments.name,
      method: checkpoints.method,
      holds: checkpoints.holds,
      steps: checkpoints.steps,
      episodes: checkpoints.episodes,
      createdAt: checkpoints.createdAt,
    })
    .from(checkpoints)
    .innerJoin(environments, eq(checkpoints.environmentId, environments.id))
    .where(and(isNull(environments.deletedAt), isNull(checkpoints.deletedAt)))
    .orderBy(desc(checkpoints.createdAt), desc(checkpoints.id))
    .limit(LISTED)
  return rows.map(({ environmentId, environmentName, createdAt, method, holds, ...row }) => ({
    ...row,
    method: method as LearnMethodId,
    holds: holds as TableHolds,
    environment: { id: environmentId, name: environmentName },
    createdAt: createdAt.toISOString(),
  }))
}

/** @returns undefined when the environment is not on the shelf */
export async function insertCheckpoint(
  db: Database,
  environmentId: string,
  { about, text: content }: StoredTable,
): Promise<CheckpointSummary | undefined> {
  const { name, method, holds, steps, episodes } = about
  const row = { id: randomUUID(), environmentId, name, method, holds, steps, episodes, createdAt: new Date() }
  const environment = await inTransaction(db, async (tx) => {
    const found = await nameOnShelf(tx, environmentId)
    if (found !== undefined) await tx.insert(checkpoints).values({ ...row, content })
    return found
  })
  if (environment === undefined) return undefined
  return {
    id: row.id,
    name,
    method,
    holds,
    steps,
    episodes,
    environment: { id: environmentId, name: environment },
    createdAt: row.createdAt.toISOString(),
  }
}

export async function getCheckpoint(db: Database, id: string): Promise<Checkpoint | undefined> {
  const [row] = await db
    .select({ content: checkpoints.content })
    .from(checkpoints)
    .where(and(eq(checkpoints.id, id), isNull(checkpoints.deletedAt)))
  return row && checkCheckpoint(parseStored(row.content, 'table'))
}

/** Lays it into the bin. @returns whether there was one */
export async function deleteCheckpoint(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const gone = await tx
      .update(checkpoints)
      .set({ deletedAt: new Date() })
      .where(and(eq(checkpoints.id, id), isNull(checkpoints.deletedAt)))
    return gone.rowsAffected > 0
  })
}
