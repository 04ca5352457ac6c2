import { randomInt, randomUUID } from 'node:crypto'
import { and, asc, count, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { refuse } from '../../core/problem'
import { newToken } from '../access/sessions'
import type { ClassSummary, StudentSummary } from '../contract/classes'
import {
  answers,
  assignments,
  audit,
  classes,
  handIns,
  questions,
  students,
  type Database,
} from '../db/schema'
import { inTransaction } from '../db/transaction'
import { madeUpName } from './made-up-names'
import { note, type Who } from './audit'
import { timeText } from './stored'

/** Signs of codes: none that is taken for another one. */
const SIGNS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'
const CODE_LENGTH = 6
/** Students that a class has at the most. */
const MOST_STUDENTS = 500

function newCode(): string {
  return Array.from({ length: CODE_LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join('')
}

/** A code as it is kept, from what somebody wrote: small letters, spaces and hyphens do not matter. */
export function codeFrom(written: string): string {
  return written
    .toUpperCase()
    .replace(/[^A-Z0-9]/g, '')
    .slice(0, 20)
}

export async function listClasses(db: Database): Promise<ClassSummary[]> {
  const rows = await db
    .select({
      id: classes.id,
      name: classes.name,
      code: classes.code,
      createdAt: classes.createdAt,
      students: sql<number>`(select count(*) from students where class_id = classes.id and put_out_at is null)`,
    })
    .from(classes)
    .orderBy(asc(classes.closedAt), desc(classes.createdAt))
  return rows.map((row) => ({ ...row, createdAt: timeText(row.createdAt) }))
}

export async function createClass(db: Database, name: string): Promise<string> {
  const id = randomUUID()
  await inTransaction(db, async (tx) => {
    await tx.insert(classes).values({ id, name, code: newCode(), createdAt: new Date() })
    await note(tx, 'owner', id, `Opened the class “${name}”.`)
  })
  return id
}

/** @returns undefined where there is none */
export async function getClass(db: Database, id: string): Promise<ClassSummary | undefined> {
  const [row] = await db.select().from(classes).where(eq(classes.id, id))
  if (!row) return undefined
  const [{ students: number }] = await db
    .select({ students: count() })
    .from(students)
    .where(and(eq(students.classId, id), isNull(students.putOutAt)))
  return { id, name: row.name, code: row.code, students: number, createdAt: timeText(row.createdAt) }
}

/** What can be done with a class as a whole. */
export const CLASS_CHANGES = {
  /** From now on another code opens it. */
  'new-code': {
    values: () => ({ code: newCode() }),
    what: 'Gave the class a new code.',
  },
  close: {
    values: () => ({ code: null, closedAt: new Date() }),
    what: 'Closed the class.',
  },
  open: {
    values: () => ({ code: newCode(), closedAt: null }),
    what: 'Opened the class again.',
  },
} as const

export type ClassChange = keyof typeof CLASS_CHANGES

/** @returns whether there is such a class in the state that the change needs */
export async function changeClass(db: Database, id: string, change: ClassChange): Promise<boolean> {
  const { values, what } = CLASS_CHANGES[change]
  return inTransaction(db, async (tx) => {
    const open = change === 'open' ? sql`${classes.closedAt} is not null` : isNull(classes.closedAt)
    const done = await tx
      .update(classes)
      .set(values())
      .where(and(eq(classes.id, id), open))
    if (done.rowsAffected) await note(tx, 'owner', id, what)
    return done.rowsAffected > 0
  })
}

/** @returns whether there is such a class */
export async function renameClass(db: Database, id: string, name: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const done = await tx.update(classes).set({ name }).where(eq(classes.id, id))
    if (done.rowsAffected) await note(tx, 'owner', id, `Called the class “${name}”.`)
    return done.rowsAffected > 0
  })
}

/** Deletes a class for good, with all that is kept of its students. @returns whether there was one */
export async function deleteClass(db: Database, id: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const given = tx.select({ id: assignments.id }).from(assignments).where(eq(assignments.classId, id))
    await tx.delete(handIns).where(inArray(handIns.assignmentId, given))
    const asked = tx.select({ id: questions.id }).from(questions).where(eq(questions.classId, id))
    await tx.delete(answers).where(inArray(answers.questionId, asked))
    for (const table of [assignments, questions, students, audit])
      await tx.delete(table).where(eq(table.classId, id))
    const gone = await tx.delete(classes).where(eq(classes.id, id))
    return gone.rowsAffected > 0
  })
}

export async function membersOf(db: Database, classId: string): Promise<StudentSummary[]> {
  const rows = await db
    .select()
    .from(students)
    .where(eq(students.classId, classId))
    .orderBy(asc(students.createdAt))
  return rows.map(({ id, name, alias, createdAt, putOutAt }) => ({
    id,
    name,
    alias,
    createdAt: timeText(createdAt),
    putOut: putOutAt !== null,
  }))
}

/**
 * Lets a student into the class that a code opens.
 * @param name  empty for a made-up one
 * @returns the student’s id; undefined where no class has that code
 * @throws ProblemError where somebody there has that name already, or the class is full
 */
export async function enterClass(db: Database, code: string, name: string): Promise<string | undefined> {
  const opens = (tx: Database) =>
    tx
      .select({ id: classes.id })
      .from(classes)
      .where(and(eq(classes.code, code), isNull(classes.closedAt)))
  // A wrong code needs no write transaction, for which others would wait.
  if (!(await opens(db)).length) return undefined
  return inTransaction(db, async (tx) => {
    const [found] = await opens(tx)
    if (!found) return undefined
    const there = await tx
      .select({ name: students.name, alias: students.alias })
      .from(students)
      .where(eq(students.classId, found.id))
    if (there.length >= MOST_STUDENTS)
      refuse('the class', `It has ${MOST_STUDENTS} students, and takes no more.`, 'Ask your instructor.')
    if (name && there.some((each) => each.name.toLowerCase() === name.toLowerCase()))
      refuse('name', `Somebody in the class is called “${name}” already.`, 'Choose another one.')
    const alias = madeUpName(new Set(there.flatMap((each) => [each.name, each.alias])))
    const id = randomUUID()
    await tx
      .insert(students)
      .values({ id, classId: found.id, name: name || alias, alias, createdAt: new Date() })
    await note(tx, id, found.id, `Entered the class as “${name || alias}”.`)
    return id
  })
}

/** @returns undefined where there is none */
export async function getStudent(db: Database, id: string) {
  const [row] = await db
    .select({ id: students.id, name: students.name, alias: students.alias, className: classes.name })
    .from(students)
    .innerJoin(classes, eq(students.classId, classes.id))
    .where(eq(students.id, id))
  return row
}

/** @returns whether there is such a student in the class */
export async function putOut(db: Database, classId: string, id: string, out: boolean): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const [row] = await tx
      .select({ name: students.name })
      .from(students)
      .where(and(eq(students.id, id), eq(students.classId, classId)))
    if (!row) return false
    await tx
      .update(students)
      .set({ putOutAt: out ? new Date() : null })
      .where(eq(students.id, id))
    await note(tx, 'owner', classId, `${out ? 'Removed' : 'Let back in'}: “${row.name}”.`)
    return true
  })
}

/** A new token for the programs of a student; the one before does not count any more. */
export async function giveToken(
  db: Database,
  { id, classId }: { id: string; classId: string },
): Promise<string> {
  const { token, kept } = newToken()
  await inTransaction(db, async (tx) => {
    await tx.update(students).set({ token: kept }).where(eq(students.id, id))
    await note(tx, id satisfies Who, classId, 'Took a token for programs.')
  })
  return token
}
