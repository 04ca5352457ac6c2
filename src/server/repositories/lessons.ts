import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, isNull } from 'drizzle-orm'
import type { Lesson } from '../../core/lesson/lesson-document'
import { checkLesson } from '../../core/lesson/read-lesson'
import { ProblemError } from '../../core/problem'
import type { LessonRecord, LessonSummary } from '../contract/lessons'
import { lessons, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { parseStored, timeText } from './stored'
import { keepRested, keepText, versionText } from './versions'

/** Lessons that are listed at the most. */
const LISTED = 500

/** The lessons on the shelf, by name. */
export async function listLessons(db: Database): Promise<LessonSummary[]> {
  const rows = await db
    .select({ id: lessons.id, name: lessons.name, views: lessons.views, updatedAt: lessons.updatedAt })
    .from(lessons)
    .where(isNull(lessons.deletedAt))
    .orderBy(asc(lessons.createdAt), desc(lessons.id))
    .limit(LISTED)
  return rows.map((row) => ({ ...row, updatedAt: timeText(row.updatedAt) }))
}

export async function createLesson(db: Database, lesson: Lesson, now = new Date()): Promise<LessonRecord> {
  const row = { id: randomUUID(), revision: 1, ...columnsOf(lesson), createdAt: now, updatedAt: now }
  await inTransaction(db, (tx) => tx.insert(lessons).values(row))
  return { id: row.id, revision: 1, lesson }
}

/** @returns undefined when it is not on the shelf */
export async function getLesson(db: Database, id: string): Promise<LessonRecord | undefined> {
  const row = await rowOf(db, id)
  return row && { id, revision: row.revision, lesson: readLesson(row.content) }
}

/** @returns the new revision; `stale` where it was changed elsewhere; undefined where it is gone */
export async function saveLesson(
  db: Database,
  id: string,
  revision: number,
  lesson: Lesson,
  now = new Date(),
): Promise<number | 'stale' | undefined> {
  return inTransaction(db, async (tx) => {
    const row = await rowOf(tx, id)
    if (!row) return undefined
    if (row.revision !== revision) return 'stale'
    const columns = columnsOf(lesson)
    await keepRested(tx, id, { document: row.content, updatedAt: row.updatedAt }, columns.content, now)
    await tx
      .update(lessons)
      .set({ ...columns, revision: revision + 1, updatedAt: now })
      .where(eq(lessons.id, id))
    return revision + 1
  })
}

/** Lays it into the bin. @returns whether there was one */
export async function deleteLesson(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const gone = await tx
      .update(lessons)
      .set({ deletedAt: new Date() })
      .where(and(eq(lessons.id, id), isNull(lessons.deletedAt)))
    return gone.rowsAffected > 0
  })
}

/** What a lesson was. @returns undefined where there is no such version */
export async function getLessonVersion(
  db: Database,
  id: string,
  version: string,
): Promise<Lesson | undefined> {
  const text = await versionText(db, id, version)
  return text === undefined ? undefined : readLesson(text)
}

/** Keeps a lesson as it is now under a name. @returns whether it is there */
export async function keepLessonVersion(db: Database, id: string, name: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const row = await rowOf(tx, id)
    if (row) await keepText(tx, id, name, row.content)
    return row !== undefined
  })
}

async function rowOf(db: Database, id: string) {
  const [row] = await db
    .select()
    .from(lessons)
    .where(and(eq(lessons.id, id), isNull(lessons.deletedAt)))
  return row
}

function columnsOf(lesson: Lesson) {
  return { name: lesson.name, views: lesson.views.length, content: JSON.stringify(lesson) }
}

/** Undefined for what cannot be read. */
export function tryReadLesson(text: string): Lesson | undefined {
  try {
    return readLesson(text)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    return undefined
  }
}

/** @throws ProblemError for what this version cannot read */
function readLesson(text: string): Lesson {
  return checkLesson(parseStored(text, 'lesson'))
}
