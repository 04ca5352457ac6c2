import type { LearnFrame } from '../../hosts/protocol/learn'

/** True when a learning run has had all its episodes. */
export function isDone(frame: LearnFrame | null): boolean {
  return frame?.done ?? false
}
