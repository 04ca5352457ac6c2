import type { Working } from '../../../explain/working'
import { ControlLearner } from '../../control-learner'
import type { Allocate } from '../../greedy-table'
import type { LearnSettings } from '../../../settings/settings'
import { traceWorking } from './trace-working'
import { TRACE_SLOT, TRACE_SLOT_SIZE } from '../../slots'
import { Traces } from './traces'
import type { World } from '../../world'

/**
 * Control with eligibility traces: the error of a step moves not only the action just taken but, by their traces, those
 * taken before it.
 *
 * - SARSA(λ) (Rummery & Niranjan 1994; Sutton & Barto 2018, section 12.7): the error is that of SARSA.
 * - Watkins's Q(λ) (Watkins 1989; Sutton & Barto 2018, section 12.10): the error is that of Q-learning, and all traces
 *   end when the next action is not a best one, because what came before did not lead to what is learned about.
 *
 * Replacing traces (Singh & Sutton 1996) never exceed 1. Traces below 1e-9 are forgotten.
 */
export class TraceControl extends ControlLearner {
  protected readonly traces: Traces
  /** [tableRows] the observation of each row */
  protected readonly observationOf: Int32Array

  constructor(
    world: World,
    settings: LearnSettings,
    private readonly offPolicy: boolean,
    allocate?: Allocate,
    /** Whether what each update was made of is kept, to be explained later. */
    private readonly keepsWorkings = true,
  ) {
    super(world, settings, keepsWorkings ? TRACE_SLOT_SIZE : 0, allocate)
    this.traces = new Traces(world.tableRows, allocate)
    this.observationOf = world.observationsOfRows()
  }

  override get eligibility(): Float64Array {
    return this.traces.values
  }

  working(observation: number): Working | undefined {
    if (!this.keepsWorkings) return undefined
    const at = observation * TRACE_SLOT_SIZE
    return traceWorking(
      this.world,
      this.settingsOf(observation),
      this.slots.subarray(at, at + TRACE_SLOT_SIZE),
      this.offPolicy ? 'best' : 'taken',
    )
  }

  protected override beginEpisode(): void {
    this.traces.clear()
  }

  protected override learn(_group: number, row: number, reward: number, next: number, ended: boolean): void {
    const { greedy, traces, settings, slots, observationOf } = this
    const nextRow = ended ? -1 : this.choose(next)
    // A choice among equals is as good as the best one.
    const best = nextRow >= 0 && greedy.values[nextRow] === greedy.best(next)
    const ahead = ended ? 0 : this.offPolicy ? greedy.best(next) : greedy.values[nextRow]
    const error = reward + this.discount * ahead - greedy.values[row]
    traces.visit(row, settings.traces === 'replacing')
    for (let i = 0; i < traces.count; i++) {
      const cell = traces.cells[i]
      const old = greedy.values[cell]
      const rate = this.rateAt(this.visits[cell])
      const value = old + rate * error * traces.values[cell]
      if (!this.sound(value, observationOf[cell])) return
      this.noteChange(cell, old)
      greedy.write(observationOf[cell], cell, value)
      if (!this.keepsWorkings) continue
      const at = this.noteUpdate(observationOf[cell], cell, old, value, reward, ahead, rate)
      slots[at + TRACE_SLOT.trace] = traces.values[cell]
      slots[at + TRACE_SLOT.error] = error
    }
    this.rateAt(this.visits[row])
    this.chosen = nextRow
    if (this.offPolicy && !best) traces.clear()
    else traces.fade(this.discount * settings.lambda)
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), ...this.traces.kept() }
  }
}
