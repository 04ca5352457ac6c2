import { ProblemError, type Problem } from '../core/problem'
import { eq } from 'drizzle-orm'
import { assignments, type OpenDatabase } from './db/schema'
import { countFor } from './access/limits'
import { documentWorkers } from './document-workers'
import { log } from './log'
import { handInContent, settleHandIn, waitingHandIns } from './repositories/hand-ins'

const FAULT: Problem = {
  place: 'the hand-in',
  cause: 'The server could not score it.',
  remedy: 'Tell your instructor: the server’s log says why.',
}

// Next.js loads server modules more than once; what is handed in is scored one after the other all the same.
const shared = globalThis as { jauntyPawnScoring?: Promise<void> | null; jauntyPawnScoreAgain?: boolean }

/** Scores what waits, in the background: one after the other, each student in turn. What a stop left waiting is scored by the next start. */
export function scoreLater(db: OpenDatabase): void {
  if (shared.jauntyPawnScoring) {
    shared.jauntyPawnScoreAgain = true
    return
  }
  shared.jauntyPawnScoring = scoreAll(db)
    .catch((error: Error) => {
      if (!db.$client.closed) log().error({ err: error }, 'Scoring what was handed in')
    })
    .finally(() => {
      shared.jauntyPawnScoring = null
      if (shared.jauntyPawnScoreAgain) {
        shared.jauntyPawnScoreAgain = false
        scoreLater(db)
      }
    })
}

/** Waits until all is scored: for tests. */
export async function allScored(): Promise<void> {
  while (shared.jauntyPawnScoring) await shared.jauntyPawnScoring
}

async function scoreAll(db: OpenDatabase): Promise<void> {
  /** Milliseconds that each student was given. */
  const given = new Map<string, number>()
  const of = ({ studentId }: { studentId: string }) => given.get(studentId) ?? 0
  while (!db.$client.closed) {
    const waiting = await waitingHandIns(db)
    if (!waiting.length) return
    // Nobody waits behind many or heavy hand-ins of one other.
    const next = waiting.reduce((first, each) => (of(each) < of(first) ? each : first))
    const began = performance.now()
    await scoreOne(db, next)
    const taken = performance.now() - began
    given.set(next.studentId, of(next) + taken)
    await countFor('scoring', next.studentId, Math.ceil(taken))
  }
}

async function scoreOne(
  db: OpenDatabase,
  { id, assignmentId }: { id: string; assignmentId: string },
): Promise<void> {
  const content = await handInContent(db, id)
  const [row] = await db
    .select({ content: assignments.content })
    .from(assignments)
    .where(eq(assignments.id, assignmentId))
  if (content === undefined || !row) return
  try {
    const handIn = new TextEncoder().encode(content)
    await settleHandIn(db, id, await documentWorkers().scoring.do('score', { exercise: row.content, handIn }))
  } catch (error) {
    if (db.$client.closed) return
    if (!(error instanceof ProblemError)) log().error({ err: error, handIn: id }, 'Scoring a hand-in')
    // Whatever is wrong with one, the others are scored.
    await settleHandIn(db, id, { problems: error instanceof ProblemError ? error.problems : [FAULT] })
  }
}
