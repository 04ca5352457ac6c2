import { createPlanner } from '../plan/planners'
import type { Planner, PlanSnapshot } from '../plan/planner'
import type { PlanSettings } from '../plan/plan-settings'
import { type PlanMethodId } from '../plan/plan-methods'
import type { Model, RowPolicy } from '../model/model'
import { actionValues, greedyPolicy } from '../plan/backup'

/** How many numbers keyframes may hold in all: 8 bytes each. */
const MEMORY = 4_000_000
/** Up to so many rows the policy is compared after every sweep. */
const WATCHED = 20_000

/** Where to stop going forward: after a sweep, or when a policy is evaluated or has been improved. */
export type PlanGoal = 'end' | 'evaluated' | 'improved'

/**
 * A plan that goes both ways in time, down to the single backup. Keyframes are kept at even distances, which double
 * when memory runs short; any sweep in between is made again from the keyframe before it, to the same bits. Within a
 * sweep a moment is how many of its backups count as made (see plan/moment.ts).
 */
export class PlanRecording {
  readonly iteration: Planner
  /** The largest change of each sweep so far, from sweep 1, … */
  readonly changes: number[] = []
  /** … and the backups made up to its end. */
  readonly work: number[] = []
  /** The sweep since which the best actions are what they are; null where the model is too large to look each time. */
  settled: number | null = null
  /** The sweep last reached by going forward. */
  reached = 0
  /** How many backups of the sweep at hand have been made; null when it is whole. */
  done: number | null = null
  private keyframes = new Map<number, PlanSnapshot>()
  private distance = 1
  private last: RowPolicy | null = null

  constructor(model: Model, settings: PlanSettings, method: PlanMethodId = 'value-iteration') {
    this.iteration = createPlanner(method, model, settings)
    this.keyframes.set(0, this.iteration.snapshot())
  }

  /** True when there is nothing more to do. */
  get finished(): boolean {
    const { iteration } = this
    return this.done === null && iteration.sweeps === this.reached && iteration.status.outcome !== 'running'
  }

  /** To the end of the sweep at hand, or one sweep on; false when there is nothing more to do. */
  forward(): boolean {
    const { iteration } = this
    if (this.done !== null) {
      this.done = null
      return true
    }
    if (this.finished) return false
    iteration.sweep()
    if (iteration.sweeps > this.reached) {
      this.reached = iteration.sweeps
      this.changes.push(iteration.change)
      this.work.push(iteration.backups)
      this.watchPolicy()
      this.keep()
    }
    return true
  }

  /** One backup on; false when there is nothing more to do. */
  forwardBackup(): boolean {
    if (this.done === null) {
      if (!this.forward()) return false
      this.done = 0
    }
    this.done++
    if (this.done >= this.iteration.sequence.length) this.done = null
    return true
  }

  /** One backup back; false at the beginning. */
  backBackup(): boolean {
    const { iteration } = this
    if (iteration.sweeps === 0) return false
    if (iteration.sequence.length === 0) this.remake(iteration.sweeps)
    const made = this.done ?? iteration.sequence.length
    if (made > 1) this.done = made - 1
    else this.goTo(iteration.sweeps - 1)
    return true
  }

  /** Whether a goal is reached at the end of the sweep at hand. */
  isAt(goal: PlanGoal): boolean {
    const { phase, sweeps, status } = this.iteration
    if (status.outcome !== 'running') return true
    if (goal === 'end' || sweeps === 0) return false
    const improving = phase === 'improve' || phase === 'optimise'
    return goal === 'improved' ? improving : !improving && this.iteration.evaluated
  }

  /** Goes to the end of any sweep from 0 to `reached`, or to a moment within it. */
  goTo(sweep: number, done: number | null = null): void {
    const target = Math.max(0, Math.min(this.reached, Math.round(sweep)))
    const { iteration } = this
    if (target !== iteration.sweeps) {
      // The sweep before the target is needed as well: it holds the values the target was computed from.
      if (target < iteration.sweeps || target - iteration.sweeps > this.distance) this.remake(target)
      while (iteration.sweeps < target) iteration.sweep()
    }
    this.done = done !== null && done > 0 && done < iteration.sequence.length ? Math.round(done) : null
  }

  /** Goes to where so many backups of a single action have been made: the last moment with no more. */
  goToWork(backups: number): void {
    let low = 0
    let high = this.reached
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.work[middle - 1] <= backups) low = middle
      else high = middle - 1
    }
    this.goTo(low)
    while (this.iteration.status.outcome === 'running' && this.iteration.backups < backups)
      if (!this.forward()) return
    if (this.iteration.backups <= backups) return
    // Part of the way into the sweep that goes too far.
    const { iteration } = this
    let made = iteration.backupsBefore
    let done = 0
    while (done < iteration.sequence.length && made + iteration.costOf(iteration.sequence[done]) <= backups)
      made += iteration.costOf(iteration.sequence[done++])
    if (done === 0) this.goTo(iteration.sweeps - 1)
    else this.done = done
  }

  /** Makes a sweep again, with all that was before it. */
  private remake(target: number): void {
    const { iteration } = this
    let from = Math.max(0, target - 1)
    while (!this.keyframes.has(from)) from--
    iteration.restore(this.keyframes.get(from)!)
    while (iteration.sweeps < target) iteration.sweep()
  }

  /** Notes when the policy changes: the one held, or the greedy one. */
  private watchPolicy(): void {
    const { model, policy, form, values, table, sweeps } = this.iteration
    if (model.rows > WATCHED) return
    const now = policy ?? greedyPolicy(model.rowStart, table ?? actionValues(form, values))
    const { last } = this
    if (!last || (now !== last && now.some((chance, r) => chance > 0 !== last[r] > 0))) this.settled = sweeps
    this.last = now
  }

  private keep(): void {
    const { iteration } = this
    if (iteration.sweeps % this.distance !== 0) return
    const snapshot = iteration.snapshot()
    this.keyframes.set(iteration.sweeps, snapshot)
    let each = 0
    for (const part of Object.values(snapshot)) if (part instanceof Float64Array) each += part.length
    if (this.keyframes.size * each <= MEMORY || this.keyframes.size < 8) return
    this.distance *= 2
    for (const sweep of this.keyframes.keys()) if (sweep % this.distance !== 0) this.keyframes.delete(sweep)
  }
}
