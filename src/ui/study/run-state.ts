import type { LearnFrame } from '../../workers/protocol'

/** True when a learning run has had all its episodes. */
export function isDone(frame: LearnFrame | null): boolean {
  return frame?.done ?? false
}
