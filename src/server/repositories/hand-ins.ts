import { randomUUID } from 'node:crypto'
import { and, asc, count, desc, eq, inArray, sql } from 'drizzle-orm'
import type { Score } from '../../core/exercise/score'
import type { Walk } from '../../core/exercise/walk'
import { refuse, type Problem } from '../../core/problem'
import type { HandInState, OwnHandIn, Standing } from '../contract/classes'
import { handIns, students, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import type { Assignment } from './assignments'
import { note } from './audit'
import { parseStored, timeText } from './stored'

/** Hand-ins of one student that are shown at the most, the last in front. */
const SHOWN = 50
/** Hand-ins of one student to one exercise that are kept at the most, where any number is allowed. */
const MOST_TRIES = 500
/** What one student hands in to one exercise at the most, in characters. */
const MOST_CHARACTERS = 25_000_000
/** Hand-ins of one student that wait to be scored at the most. */
const MOST_WAITING = 3

/** The states that use up a try: what was refused or came late does not. */
const COUNTED: HandInState[] = ['waiting', 'playing', 'scored', 'abandoned']

/** What was scored. */
export interface Scored {
  readonly open: Score
  readonly walks: readonly Walk[]
  readonly hidden: Score | null
}

/**
 * Keeps what a student hands in. What comes late is kept as well, apart from the others.
 * @param as  whether it waits to be scored, or a program plays it now
 * @throws ProblemError where no try is left, or others of the same student still wait
 */
export async function handIn(
  db: Database,
  assignment: Assignment,
  studentId: string,
  content: string,
  as: 'waiting' | 'playing' = 'waiting',
  now = new Date(),
): Promise<{ readonly id: string; readonly state: HandInState }> {
  const late = assignment.closesAt !== null && now > new Date(assignment.closesAt)
  const id = randomUUID()
  const state = late ? 'late' : as
  await inTransaction(db, async (tx) => {
    const states = await tx
      .select({
        state: handIns.state,
        number: count(),
        characters: sql<number>`sum(length(${handIns.content}))`,
      })
      .from(handIns)
      .where(and(eq(handIns.assignmentId, assignment.id), eq(handIns.studentId, studentId)))
      .groupBy(handIns.state)
    const number = (of: readonly string[]) =>
      states.reduce((sum, each) => (of.includes(each.state) ? sum + each.number : sum), 0)
    if (number(states.map((each) => each.state)) >= MOST_TRIES)
      refuse(
        'the hand-in',
        `You have handed in ${MOST_TRIES} times.`,
        'Ask your instructor for the exercise anew.',
      )
    if (states.reduce((sum, each) => sum + each.characters, content.length) > MOST_CHARACTERS)
      refuse(
        'the hand-in',
        `With it you have handed in more than ${MOST_CHARACTERS / 1e6} MB.`,
        'Hand in something smaller.',
      )
    if (number(['waiting']) >= MOST_WAITING)
      refuse('the hand-in', `${MOST_WAITING} of yours still wait to be scored.`, 'Wait until they are.')
    if (!late && assignment.tries !== null && number(COUNTED) >= assignment.tries)
      refuse(
        'the hand-in',
        `You have used all ${assignment.tries} tries.`,
        'What you handed in before counts.',
      )
    await tx
      .insert(handIns)
      .values({ id, assignmentId: assignment.id, studentId, content, state, createdAt: now })
    await note(
      tx,
      studentId,
      assignment.classId,
      `Handed in for “${assignment.exercise.name}”${late ? ', late' : ''}.`,
    )
  })
  return { id, state }
}

/** What waits to be scored, the first in front. */
export async function waitingHandIns(db: Database) {
  return db
    .select({
      id: handIns.id,
      assignmentId: handIns.assignmentId,
      studentId: handIns.studentId,
    })
    .from(handIns)
    .where(eq(handIns.state, 'waiting'))
    .orderBy(asc(handIns.createdAt))
    .limit(1_000)
}

export async function handInContent(db: Database, id: string): Promise<string | undefined> {
  const [row] = await db.select({ content: handIns.content }).from(handIns).where(eq(handIns.id, id))
  return row?.content
}

/** Keeps what became of one: its score, or why it has none. */
export async function settleHandIn(
  db: Database,
  id: string,
  outcome: Scored | { readonly problems: readonly Problem[] },
): Promise<void> {
  const values =
    'problems' in outcome
      ? { state: 'refused', problems: JSON.stringify(outcome.problems) }
      : {
          state: 'scored',
          open: JSON.stringify({ score: outcome.open, walks: outcome.walks }),
          openPoints: outcome.open.points,
          levelPoints: JSON.stringify(outcome.open.levels.map(({ points }) => points)),
          hidden: outcome.hidden && JSON.stringify(outcome.hidden),
          hiddenPoints: outcome.hidden && outcome.hidden.points,
        }
  await inTransaction(db, (tx) =>
    tx
      .update(handIns)
      .set({ ...values, scoredAt: new Date() })
      .where(and(eq(handIns.id, id), inArray(handIns.state, ['waiting', 'playing']))),
  )
}

/** A program began another hand-in before it had played this one to its end. The try is used up. */
export async function abandonHandIn(db: Database, id: string): Promise<void> {
  await inTransaction(db, (tx) =>
    tx
      .update(handIns)
      .set({ state: 'abandoned' })
      .where(and(eq(handIns.id, id), eq(handIns.state, 'playing'))),
  )
}

/** After a start: programs that played when the server ended have lost their episodes. The try is given back. */
export async function giveUpPlaying(db: Database): Promise<void> {
  const problems = [
    {
      place: 'the hand-in',
      cause: 'The server was started again while it was played.',
      remedy: 'Begin it anew.',
    },
  ]
  await inTransaction(db, (tx) =>
    tx
      .update(handIns)
      .set({ state: 'refused', problems: JSON.stringify(problems) })
      .where(eq(handIns.state, 'playing')),
  )
}

/** What a student handed in, the last in front, with nothing of hidden seeds before they are revealed. */
export async function ownHandIns(
  db: Database,
  { id, revealed }: Assignment,
  studentId: string,
): Promise<OwnHandIn[]> {
  const rows = await db
    .select(OWN)
    .from(handIns)
    .where(and(eq(handIns.assignmentId, id), eq(handIns.studentId, studentId)))
    .orderBy(desc(handIns.createdAt))
    .limit(SHOWN)
  return rows.map((row) => ownHandIn(row, revealed))
}

/** One of them, wherever it was handed in. @returns undefined where the student has none of that id */
export async function findHandIn(
  db: Database,
  id: string,
  studentId: string,
): Promise<Pick<OwnHandIn, 'id' | 'state' | 'score'> | undefined> {
  const [row] = await db
    .select(OWN)
    .from(handIns)
    .where(and(eq(handIns.id, id), eq(handIns.studentId, studentId)))
  return row && ownHandIn(row, false)
}

/** What students are told of their own, without what they sent. */
const OWN = {
  id: handIns.id,
  createdAt: handIns.createdAt,
  state: handIns.state,
  problems: handIns.problems,
  open: handIns.open,
  hidden: handIns.hidden,
} as const

function ownHandIn(row: Pick<typeof handIns.$inferSelect, keyof typeof OWN>, revealed: boolean): OwnHandIn {
  const open = row.open === null ? null : (parseStored(row.open, 'score') as { score: Score; walks: Walk[] })
  return {
    id: row.id,
    at: timeText(row.createdAt),
    state: row.state as HandInState,
    problems: row.problems === null ? [] : (parseStored(row.problems, 'hand-in') as Problem[]),
    score: open && open.score,
    walks: open?.walks ?? [],
    hidden: revealed && row.hidden !== null ? (parseStored(row.hidden, 'score') as Score) : null,
  }
}

/** Tries that a student has left; null for any number. */
export async function triesLeft(
  db: Database,
  { id, tries }: Assignment,
  studentId: string,
): Promise<number | null> {
  if (tries === null) return null
  const [{ used }] = await db
    .select({ used: count() })
    .from(handIns)
    .where(
      and(eq(handIns.assignmentId, id), eq(handIns.studentId, studentId), inArray(handIns.state, COUNTED)),
    )
  return Math.max(0, tries - used)
}

/** The best points of a student by assignment, on the open seed. */
export async function bestPoints(db: Database, studentId: string): Promise<ReadonlyMap<string, number>> {
  const rows = await db
    .select({ id: handIns.assignmentId, best: sql<number>`max(${handIns.openPoints})` })
    .from(handIns)
    .where(and(eq(handIns.studentId, studentId), eq(handIns.state, 'scored')))
    .groupBy(handIns.assignmentId)
  return new Map(rows.map(({ id, best }) => [id, best]))
}

/** A line of the standings, and whose it is. */
export type Ranked = Omit<Standing, 'own'> & { readonly studentId: string }

/**
 * The standings: of each student the hand-in with the most points on the open seed, the first of them where several have as
 * many, and of students with as many the one who was first; once the hidden scores are revealed, ranked by what that hand-in came to on the hidden seed. Who has as many points
 * has the same rank.
 */
export async function standingsOf(
  db: Database,
  { id, madeUpNames, revealed }: Assignment,
): Promise<readonly Ranked[]> {
  const rows = await db
    .select({
      studentId: handIns.studentId,
      name: students.name,
      alias: students.alias,
      levelPoints: handIns.levelPoints,
      openPoints: handIns.openPoints,
      hiddenPoints: handIns.hiddenPoints,
      at: handIns.createdAt,
      number: sql<number>`count(*) over (partition by ${handIns.studentId})`,
      place:
        sql<number>`row_number() over (partition by ${handIns.studentId} order by ${handIns.openPoints} desc, ${handIns.createdAt})`.as(
          'place',
        ),
    })
    .from(handIns)
    .innerJoin(students, eq(handIns.studentId, students.id))
    .where(and(eq(handIns.assignmentId, id), eq(handIns.state, 'scored'), sql`${students.putOutAt} is null`))
  const points = (row: (typeof rows)[number]) =>
    revealed && row.hiddenPoints !== null ? row.hiddenPoints : row.openPoints!
  const best = rows
    .filter(({ place }) => place === 1)
    .sort((x, y) => points(y) - points(x) || x.at.getTime() - y.at.getTime())
  return best.map((row) => ({
    rank: 1 + best.filter((other) => points(other) > points(row) + 1e-9).length,
    name: madeUpNames ? row.alias : row.name,
    points: row.openPoints!,
    levels: parseStored(row.levelPoints!, 'score') as number[],
    handIns: row.number,
    hidden: revealed ? row.hiddenPoints : null,
    studentId: row.studentId,
  }))
}

/** How many hand-ins still wait to be scored. */
export async function waitingOf(db: Database, assignmentId: string): Promise<number> {
  const [{ waiting }] = await db
    .select({ waiting: count() })
    .from(handIns)
    .where(and(eq(handIns.assignmentId, assignmentId), eq(handIns.state, 'waiting')))
  return waiting
}

/** Every hand-in to an exercise, the first in front, for a list. */
export async function listHandIns(db: Database, assignmentId: string) {
  return db
    .select({
      id: handIns.id,
      student: students.name,
      madeUp: students.alias,
      at: handIns.createdAt,
      state: handIns.state,
      problems: handIns.problems,
      content: handIns.content,
      openPoints: handIns.openPoints,
      hiddenPoints: handIns.hiddenPoints,
      open: handIns.open,
      hidden: handIns.hidden,
    })
    .from(handIns)
    .innerJoin(students, eq(handIns.studentId, students.id))
    .where(eq(handIns.assignmentId, assignmentId))
    .orderBy(asc(handIns.createdAt))
}
