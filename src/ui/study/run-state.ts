import type { LearnFrame, PlanFrame } from '../../workers/protocol'

/** True when a learning run has had all its episodes. */
export function isDone(frame: LearnFrame | null): boolean {
  return frame?.done ?? false
}

/** True when a plan stands at its last sweep and has nothing left to do. */
export function isFinished(frame: PlanFrame | null): boolean {
  return frame?.finished ?? false
}
