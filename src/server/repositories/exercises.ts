import { randomUUID } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { checkExercise } from '../../core/exercise/read-exercise'
import type { ExerciseRecord, ExerciseSummary } from '../contract/classes'
import { exercises, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import type { StoredExercise } from '../../hosts/node/document-tasks'
import { parseStored, timeText } from './stored'

/** Exercises that are listed at the most. */
const LISTED = 500

export async function listExercises(db: Database): Promise<ExerciseSummary[]> {
  const rows = await db
    .select({
      id: exercises.id,
      name: exercises.name,
      levels: sql<number>`json_array_length(${exercises.content}, '$.levels')`,
      updatedAt: exercises.updatedAt,
    })
    .from(exercises)
    .where(isNull(exercises.deletedAt))
    .orderBy(desc(exercises.updatedAt), desc(exercises.id))
    .limit(LISTED)
  return rows.map((row) => ({ ...row, updatedAt: timeText(row.updatedAt) }))
}

export async function createExercise(
  db: Database,
  { name, text }: StoredExercise,
  now = new Date(),
): Promise<string> {
  const id = randomUUID()
  await inTransaction(db, (tx) =>
    tx.insert(exercises).values({ id, name, content: text, revision: 1, createdAt: now, updatedAt: now }),
  )
  return id
}

/** Its text, as it is stored. @returns undefined when it is not on the shelf */
export async function exerciseText(db: Database, id: string): Promise<string | undefined> {
  return (await rowOf(db, id))?.content
}

/** @returns undefined when it is not on the shelf */
export async function getExercise(db: Database, id: string): Promise<ExerciseRecord | undefined> {
  const row = await rowOf(db, id)
  return row && { id, revision: row.revision, exercise: checkExercise(parseStored(row.content, 'exercise')) }
}

/** @returns the new revision; `stale` where it was changed elsewhere; undefined where it is gone */
export async function saveExercise(
  db: Database,
  id: string,
  revision: number,
  { name, text }: StoredExercise,
): Promise<number | 'stale' | undefined> {
  return inTransaction(db, async (tx) => {
    const row = await rowOf(tx, id)
    if (!row) return undefined
    if (row.revision !== revision) return 'stale'
    await tx
      .update(exercises)
      .set({ name, content: text, revision: revision + 1, updatedAt: new Date() })
      .where(eq(exercises.id, id))
    return revision + 1
  })
}

/** Lays it into the bin. @returns whether there was one */
export async function deleteExercise(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const gone = await tx
      .update(exercises)
      .set({ deletedAt: new Date() })
      .where(and(eq(exercises.id, id), isNull(exercises.deletedAt)))
    return gone.rowsAffected > 0
  })
}

async function rowOf(db: Database, id: string) {
  const [row] = await db
    .select()
    .from(exercises)
    .where(and(eq(exercises.id, id), isNull(exercises.deletedAt)))
  return row
}
