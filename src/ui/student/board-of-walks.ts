import type { Seen, SeenBoard } from '../../core/exercise/seen'
import type { StudentExercise } from '../../server/contract/classes'

/** A board that episodes are walked on. */
export interface BoardOfWalks {
  readonly seen: Seen
  readonly board: SeenBoard
  readonly picture: string
}

/** The board of an exercise; null where it has none. */
export function boardOf({ id, seen }: StudentExercise): BoardOfWalks | null {
  return seen?.board ? { seen, board: seen.board, picture: `/api/class/exercises/${id}/picture` } : null
}
