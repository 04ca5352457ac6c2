import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, gt } from 'drizzle-orm'
import { refuse } from '../../core/problem'
import type {
  AskedQuestion,
  Question,
  QuestionState,
  Spread,
  StudentQuestion,
  Truth,
} from '../contract/questions'
import { answers, questions, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { note } from './audit'
import { parseStored } from './stored'

/** Asks a class; a question that was open is closed. */
export async function askClass(
  db: Database,
  classId: string,
  question: Question,
  truth: Truth | null,
): Promise<string> {
  const id = randomUUID()
  await inTransaction(db, async (tx) => {
    await tx
      .update(questions)
      .set({ state: 'closed' })
      .where(and(eq(questions.classId, classId), eq(questions.state, 'open')))
    await tx.insert(questions).values({
      id,
      classId,
      content: JSON.stringify(question),
      truth: truth && JSON.stringify(truth),
      state: 'open',
      createdAt: new Date(),
    })
    await note(tx, 'owner', classId, `Asked “${question.text}”.`)
  })
  return id
}

/** The question that was asked last; undefined where none was since a time. */
export async function lastQuestion(
  db: Database,
  classId: string,
  since: Date,
): Promise<AskedQuestion | undefined> {
  const [row] = await db
    .select()
    .from(questions)
    .where(and(eq(questions.classId, classId), gt(questions.createdAt, since)))
    .orderBy(desc(questions.createdAt))
    .limit(1)
  return row && askedQuestion(db, row)
}

/** @returns undefined where the class was not asked that */
export async function getQuestion(
  db: Database,
  classId: string,
  id: string,
): Promise<AskedQuestion | undefined> {
  const [row] = await db
    .select()
    .from(questions)
    .where(and(eq(questions.id, id), eq(questions.classId, classId)))
  return row && askedQuestion(db, row)
}

/** @returns whether the class was asked that */
export async function changeQuestion(
  db: Database,
  classId: string,
  id: string,
  state: QuestionState,
): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const done = await tx
      .update(questions)
      .set({ state })
      .where(and(eq(questions.id, id), eq(questions.classId, classId)))
    return done.rowsAffected > 0
  })
}

/**
 * Keeps the answer of a student, in the place of an earlier one.
 * @returns false where the class was not asked that
 * @throws ProblemError where it is closed, or is no answer to it
 */
export async function answerQuestion(
  db: Database,
  classId: string,
  id: string,
  studentId: string,
  value: number,
): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const [row] = await tx
      .select()
      .from(questions)
      .where(and(eq(questions.id, id), eq(questions.classId, classId)))
    if (!row) return false
    if (row.state !== 'open') refuse('the answer', 'The question is closed.', 'Wait for the next one.')
    const question = questionOf(row.content)
    if (
      question.kind !== 'number' &&
      !(Number.isInteger(value) && value >= 0 && value < question.choices.length)
    )
      refuse('the answer', 'It is none of the choices.', 'Choose one of them.')
    const answered = { value, createdAt: new Date() }
    await tx
      .insert(answers)
      .values({ questionId: id, studentId, ...answered })
      .onConflictDoUpdate({ target: [answers.questionId, answers.studentId], set: answered })
    return true
  })
}

/** What a student answered; null for nothing yet. */
export async function ownAnswer(db: Database, id: string, studentId: string): Promise<number | null> {
  const [row] = await db
    .select({ value: answers.value })
    .from(answers)
    .where(and(eq(answers.questionId, id), eq(answers.studentId, studentId)))
  return row?.value ?? null
}

/** What students may see of a question. */
export function forStudents({ id, question, state, truth, spread }: AskedQuestion): StudentQuestion {
  return { id, question, state, revealed: state === 'revealed' ? { truth, spread } : null }
}

async function askedQuestion(db: Database, row: typeof questions.$inferSelect): Promise<AskedQuestion> {
  const given = await db
    .select({ value: answers.value })
    .from(answers)
    .where(eq(answers.questionId, row.id))
    .orderBy(asc(answers.value))
  const question = questionOf(row.content)
  return {
    id: row.id,
    question,
    state: row.state as QuestionState,
    truth: row.truth === null ? null : (parseStored(row.truth, 'question') as Truth),
    spread: spreadOf(
      question,
      given.map(({ value }) => value),
    ),
  }
}

function spreadOf(question: Question, values: readonly number[]): Spread {
  if (question.kind === 'number') return { values, answers: values.length }
  const number = question.choices.map((_, choice) => values.filter((value) => value === choice).length)
  return { values: number, answers: values.length }
}

function questionOf(content: string): Question {
  return parseStored(content, 'question') as Question
}
