import { randomUUID } from 'node:crypto'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Exercise } from '../../core/exercise/exercise'
import type { AssignmentSummary, AssignmentTerms } from '../contract/classes'
import { assignments, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { note } from './audit'
import { parseStored, timeText } from './stored'

type Row = typeof assignments.$inferSelect

/** An exercise as it was handed out to a class. */
export interface Assignment extends AssignmentTerms {
  readonly id: string
  readonly classId: string
  /** The exercise, JSON, as it was checked when it was handed out. */
  readonly content: string
  readonly exercise: Exercise
  readonly revealed: boolean
}

/** Hands an exercise out. @param content  the exercise, JSON, as it was checked */
export async function handOut(
  db: Database,
  classId: string,
  content: string,
  { tries, closesAt, madeUpNames }: AssignmentTerms,
): Promise<string> {
  const id = randomUUID()
  const { name, levels, seeds } = JSON.parse(content) as Exercise
  await inTransaction(db, async (tx) => {
    await tx.insert(assignments).values({
      id,
      classId,
      content,
      name,
      points: levels.reduce((sum, level) => sum + level.points, 0),
      hidden: seeds.hidden !== null,
      tries,
      closesAt: closesAt === null ? null : new Date(closesAt),
      madeUpNames,
      createdAt: new Date(),
    })
    await note(tx, 'owner', classId, `Handed out “${name}”.`)
  })
  return id
}

/** What lists show of an assignment. */
const LISTED = {
  id: assignments.id,
  name: assignments.name,
  points: assignments.points,
  hidden: assignments.hidden,
  tries: assignments.tries,
  closesAt: assignments.closesAt,
  madeUpNames: assignments.madeUpNames,
  revealedAt: assignments.revealedAt,
} as const
const inClass = (classId: string) => and(eq(assignments.classId, classId), isNull(assignments.withdrawnAt))

function listed<R extends Pick<Row, keyof typeof LISTED>>({ revealedAt, closesAt, ...row }: R) {
  return { ...row, closesAt: closesAt && timeText(closesAt), revealed: revealedAt !== null }
}

/** What was handed out to a class and not withdrawn, the first in front. */
export async function listAssignments(
  db: Database,
  classId: string,
): Promise<Omit<AssignmentSummary, 'handIns' | 'students'>[]> {
  const rows = await db
    .select(LISTED)
    .from(assignments)
    .where(inClass(classId))
    .orderBy(asc(assignments.createdAt))
  return rows.map(listed)
}

/** The same with what came in for each, as the instructor sees it. */
export async function countedAssignments(db: Database, classId: string): Promise<AssignmentSummary[]> {
  const rows = await db
    .select({
      ...LISTED,
      handIns: sql<number>`(select count(*) from hand_ins where assignment_id = assignments.id)`,
      students: sql<number>`(select count(distinct student_id) from hand_ins where assignment_id = assignments.id)`,
    })
    .from(assignments)
    .where(inClass(classId))
    .orderBy(asc(assignments.createdAt))
  return rows.map(listed)
}

/** @returns undefined where the class has none, or no longer */
export async function getAssignment(
  db: Database,
  classId: string,
  id: string,
): Promise<Assignment | undefined> {
  const [row] = await db
    .select()
    .from(assignments)
    .where(and(eq(assignments.id, id), inClass(classId)))
  return row && assignmentOf(row)
}

/** What is changed of one that is handed out. */
export type AssignmentChange =
  | { readonly change: 'terms'; readonly terms: AssignmentTerms }
  /** Shows the scores on the hidden seed to the class. */
  | { readonly change: 'reveal' }
  | { readonly change: 'withdraw' }

/** @returns whether the class has it */
export async function changeAssignment(
  db: Database,
  classId: string,
  id: string,
  change: AssignmentChange,
): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const found = await getAssignment(tx, classId, id)
    if (!found) return false
    const { values, what } = changeWith(change)
    await tx.update(assignments).set(values).where(eq(assignments.id, id))
    await note(tx, 'owner', classId, `${what}: “${found.exercise.name}”.`)
    return true
  })
}

function changeWith(change: AssignmentChange): { values: Partial<Row>; what: string } {
  switch (change.change) {
    case 'terms': {
      const { tries, closesAt, madeUpNames } = change.terms
      const values = { tries, closesAt: closesAt === null ? null : new Date(closesAt), madeUpNames }
      return { values, what: 'Changed until when and how often one may hand in' }
    }
    case 'reveal':
      return { values: { revealedAt: new Date() }, what: 'Revealed the scores on the hidden seed' }
    case 'withdraw':
      return { values: { withdrawnAt: new Date() }, what: 'Withdrew' }
  }
}

function assignmentOf({ id, classId, content, tries, closesAt, madeUpNames, revealedAt }: Row): Assignment {
  return {
    id,
    classId,
    content,
    exercise: parseStored(content, 'exercise') as Exercise,
    tries,
    closesAt: closesAt && timeText(closesAt),
    madeUpNames,
    revealed: revealedAt !== null,
  }
}
