import type { Seen, SeenBoard } from '../../core/exercise/seen'

/** A board that episodes are walked on. */
export interface BoardOfWalks {
  readonly seen: Seen
  readonly board: SeenBoard
  readonly picture: string
}
