import { scoreSeeds } from '../../core/exercise/exercise'
import { refuse } from '../../core/problem'
import type { OpenDatabase } from '../db/schema'
import { documentWorkers } from '../document-workers'
import type { Assignment } from '../repositories/assignments'
import { abandonHandIn, handIn, settleHandIn } from '../repositories/hand-ins'
import { MOST_EPISODES, type PlaySession } from './play-sessions'

/** A hand-in that a program plays: each level with each seed is a part. */
export interface ProgramHandIn {
  readonly id: string
  readonly player: string
  readonly assignment: Assignment
  readonly parts: readonly ProgramPart[]
}

/** Hand-ins that are played at once, at the most; the oldest are given up. */
const KEPT = 2_000

interface ProgramPart {
  /** The number of the level. */
  readonly level: number
  readonly seed: number
  readonly episodes: number
  /** The session that plays it; null before it is begun. */
  session: string | null
  /** What its episodes came to; null until all have ended. */
  returns: Float64Array | null
}

// Next.js loads server modules more than once.
const shared = globalThis as { jauntyPawnProgramHandIns?: Map<string, ProgramHandIn> }
const all = () => (shared.jauntyPawnProgramHandIns ??= new Map<string, ProgramHandIn>())

/**
 * Begins one. It uses up a try, also where it is never played to its end; one that the player began before for the same
 * exercise is given up.
 * @throws ProblemError
 */
export async function beginHandIn(
  db: OpenDatabase,
  assignment: Assignment,
  player: string,
): Promise<ProgramHandIn> {
  const { exercise } = assignment
  if (!exercise.accepts.includes('program'))
    refuse('exercise', 'It takes no programs.', 'Hand in a file on its page.')
  const { id, state } = await handIn(db, assignment, player, '', 'playing')
  if (state === 'late') refuse('exercise', 'It is closed.', 'What you handed in before counts.')
  const made: ProgramHandIn = {
    id,
    player,
    assignment,
    parts: scoreSeeds(exercise).flatMap((seed) =>
      exercise.levels.map((_, level) => ({
        level,
        seed,
        episodes: Math.min(exercise.episodes, MOST_EPISODES),
        session: null,
        returns: null,
      })),
    ),
  }
  for (const each of all().values())
    if (each.player === player && each.assignment.id === assignment.id) await giveUp(db, each.id)
  all().set(id, made)
  for (const oldest of all().keys()) if (all().size > KEPT) await giveUp(db, oldest)
  return made
}

async function giveUp(db: OpenDatabase, id: string): Promise<void> {
  all().delete(id)
  await abandonHandIn(db, id)
}

/** @returns undefined where the player plays none of that id */
export function programHandIn(player: string, id: string): ProgramHandIn | undefined {
  const found = all().get(id)
  return found?.player === player ? found : undefined
}

/** Notes that a session of a hand-in has come to its end; after the last one it is scored. */
export async function partPlayed(db: OpenDatabase, { part, episodes }: PlaySession): Promise<void> {
  const found = part && all().get(part.handIn)
  if (!found || found.parts[part.part].returns) return
  found.parts[part.part].returns = episodes.returns
  if (found.parts.some(({ returns }) => !returns)) return
  all().delete(found.id)
  const { content, exercise } = found.assignment
  const [open, hidden = null] = await Promise.all(
    scoreSeeds(exercise).map((seed) =>
      documentWorkers().scoring.do('scorePlayed', {
        exercise: content,
        seed,
        returns: found.parts.filter((each) => each.seed === seed).map(({ returns }) => returns!),
      }),
    ),
  )
  await settleHandIn(db, found.id, { open, walks: [], hidden })
}
