import { checkCheckpoint } from '../../core/learn/read-checkpoint'
import { randomUUID } from 'node:crypto'
import { and, desc, eq, isNull } from 'drizzle-orm'
import { type Checkpoint } from '../../core/learn/checkpoint'
import type { TableHolds } from '../../core/learn/learner'
import type { LearnMethodId } from '../../core/learn/methods/methods'
import type { CheckpointSummary } from '../contract/checkpoints'
import { checkpoints, environments, type Database } from '../db/schema'

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
    .where(isNull(environments.deletedAt))
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
  checkpoint: Checkpoint,
): Promise<CheckpointSummary | undefined> {
  const [environment] = await db
    .select({ name: environments.name })
    .from(environments)
    .where(and(eq(environments.id, environmentId), isNull(environments.deletedAt)))
  if (!environment) return undefined
  const { name, method, holds, steps, episodes } = checkpoint
  const row = { id: randomUUID(), environmentId, name, method, holds, steps, episodes, createdAt: new Date() }
  await db.insert(checkpoints).values({ ...row, content: JSON.stringify(checkpoint) })
  return {
    id: row.id,
    name,
    method,
    holds,
    steps,
    episodes,
    environment: { id: environmentId, name: environment.name },
    createdAt: row.createdAt.toISOString(),
  }
}

export async function getCheckpoint(db: Database, id: string): Promise<Checkpoint | undefined> {
  const [row] = await db
    .select({ content: checkpoints.content })
    .from(checkpoints)
    .where(eq(checkpoints.id, id))
  return row && checkCheckpoint(JSON.parse(row.content))
}

/** @returns whether there was one */
export async function deleteCheckpoint(db: Database, id: string): Promise<boolean> {
  const gone = await db.delete(checkpoints).where(eq(checkpoints.id, id)).returning({ id: checkpoints.id })
  return gone.length > 0
}
