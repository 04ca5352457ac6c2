import type { PlanGoal } from '../../core/recording/plan-recording'
import type { PlanUnit } from '../../hosts/protocol/plan'
import type { PlanSession } from './plan-session'

/**
 * What moves plans: the one there is, or two side by side. The second is kept where as many backups have been made
 * as in the first; once the first has nothing left to do, the second goes on by itself.
 */
export interface PlanDrive {
  run(): void
  pause(): void
  finish(goal?: PlanGoal): void
  step(way: 'on' | 'back', unit?: PlanUnit): void
  toStart(): void
  go(sweep: number): void
  /** Both to where so many backups have been made. */
  match(backups: number): void
  /** Begins to keep the second at the first; gives what stops it. */
  keep(): () => void
}

export function createPlanDrive(first: PlanSession, second: PlanSession): PlanDrive {
  const both = () => first.store.getState().beside !== null
  /** The second follows the first wherever it goes. */
  let tracking = true
  let matched = -1
  const match = () => {
    const { frame } = first.store.getState()
    if (!tracking || !both() || !frame || !second.store.getState().frame || frame.backups === matched) return
    matched = frame.backups
    second.match(frame.backups)
  }
  /** The plan that a step on moves. */
  const ahead = () => (both() && first.store.getState().frame?.finished ? second : first)
  const lead = (plan: PlanSession) => {
    tracking = plan === first
    return plan
  }
  return {
    run: () => lead(ahead()).run(),
    pause() {
      first.pause()
      if (both()) second.pause()
    },
    finish(goal = 'end') {
      if (!both() || goal !== 'end') return lead(first).finish(goal)
      tracking = false
      first.finish()
      second.finish()
    },
    step(way, unit) {
      lead(way === 'on' ? ahead() : first).step(way, unit)
    },
    toStart() {
      lead(first)
      matched = -1
      if (both() && second.store.getState().warm) second.restart()
      if (first.store.getState().warm) first.restart()
      else first.go(0)
    },
    go: (sweep) => lead(first).go(sweep),
    match(backups) {
      tracking = false
      matched = -1
      first.match(backups)
      second.match(backups)
    },
    keep() {
      matched = -1
      tracking = true
      const stops = [first.store.subscribe(match), second.store.subscribe(match)]
      return () => stops.forEach((stop) => stop())
    },
  }
}
