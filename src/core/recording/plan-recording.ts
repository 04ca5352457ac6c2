import type { Planner, PlanSettings, PlanSnapshot } from '../plan/planner'
import { planMethod, type PlanMethodId } from '../plan/plan-methods'
import type { Model } from '../model/model'

/** How many numbers keyframes may hold in all: 8 bytes each. */
const MEMORY = 4_000_000

/**
 * A plan that goes both ways in time. Keyframes are kept at even distances, which double when memory
 * runs short; any sweep in between is made again from the keyframe before it, to the same bits.
 */
export class PlanRecording {
  readonly iteration: Planner
  /** The largest change of each sweep so far, from sweep 1. */
  readonly changes: number[] = []
  /** The sweep last reached by going forward. */
  reached = 0
  private keyframes = new Map<number, PlanSnapshot>()
  private distance = 1

  constructor(model: Model, settings: PlanSettings, method: PlanMethodId = 'value-iteration') {
    this.iteration = planMethod(method).create(model, settings)
    this.keyframes.set(0, this.iteration.snapshot())
  }

  /** One sweep forward from where the plan stands; false when there is nothing more to do. */
  forward(): boolean {
    const { iteration } = this
    if (iteration.sweeps === this.reached && iteration.status.outcome !== 'running') return false
    iteration.sweep()
    if (iteration.sweeps > this.reached) {
      this.reached = iteration.sweeps
      this.changes.push(iteration.change)
      this.keep()
    }
    return true
  }

  /** Goes to any sweep from 0 to `reached`. */
  goTo(sweep: number): void {
    const target = Math.max(0, Math.min(this.reached, Math.round(sweep)))
    const { iteration } = this
    if (target === iteration.sweeps) return
    // The sweep before the target is needed as well: it holds the values the target was computed from.
    if (target < iteration.sweeps || target - iteration.sweeps > this.distance) {
      let from = Math.max(0, target - 1)
      while (!this.keyframes.has(from)) from--
      iteration.restore(this.keyframes.get(from)!)
    }
    while (iteration.sweeps < target) iteration.sweep()
  }

  private keep(): void {
    const { iteration } = this
    if (iteration.sweeps % this.distance !== 0) return
    this.keyframes.set(iteration.sweeps, iteration.snapshot())
    const each = iteration.values.length + (iteration.policy?.length ?? 0)
    if (this.keyframes.size * each <= MEMORY || this.keyframes.size < 8) return
    this.distance *= 2
    for (const sweep of this.keyframes.keys()) if (sweep % this.distance !== 0) this.keyframes.delete(sweep)
  }
}
