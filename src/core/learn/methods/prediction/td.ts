import type { Working } from '../../../explain/working'
import type { Allocate } from '../../greedy-table'
import type { LearnTable } from '../../learner'
import type { Following } from '../../explore/following'
import type { LearnSettings } from '../../../settings/settings'
import { traceWorking } from '../traces/trace-working'
import { TRACE_SLOT, TRACE_SLOT_SIZE } from '../../slots'
import { TabularLearner } from '../../tabular-learner'
import { Traces } from '../traces/traces'
import type { World } from '../../world'

/**
 * What the two kinds of prediction share: a table with a value for each observation, a policy that is followed and
 * never changed, and a count of updates for learning rates that go by them.
 */
export abstract class Prediction extends TabularLearner {
  readonly table: Float64Array
  protected readonly actor: Following
  /** [observations] updates so far */
  protected readonly updates: Float64Array

  constructor(world: World, settings: LearnSettings, slotSize: number, allocate?: Allocate) {
    super(world, settings, slotSize, allocate)
    const { tableStart } = world
    this.table = this.allocate.floats(world.model.observations)
    this.fillStart(this.table, (observation) => tableStart[observation] < tableStart[observation + 1])
    this.updates = this.allocate.floats(this.table.length)
    this.actor = this.follower()
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    return { values: { holds: 'values', numbers: this.table } }
  }

  override stateValues(table = this.table): Float64Array {
    return this.world.perState(table)
  }

  /** The policy that is followed. */
  override policy(): Float64Array {
    return this.behaviour()
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), updates: this.updates }
  }
}

/**
 * TD(λ) prediction with traces as it goes (Sutton 1988; Sutton & Barto 2018, sections 6.1 and 12.2): what a given policy
 * is worth. TD(0) is the case without traces: only the state just left is updated.
 */
export class TdPrediction extends Prediction {
  protected readonly traces: Traces

  constructor(
    world: World,
    settings: LearnSettings,
    protected readonly lambda: number,
    allocate?: Allocate,
    /** Whether what each update was made of is kept, to be explained later. */
    private readonly keepsWorkings = true,
  ) {
    super(world, settings, keepsWorkings ? TRACE_SLOT_SIZE : 0, allocate)
    this.traces = new Traces(this.table.length, allocate)
  }

  override get eligibility(): Float64Array | null {
    return this.lambda > 0 ? this.traces.values : null
  }

  working(observation: number): Working | undefined {
    if (!this.keepsWorkings) return undefined
    const at = observation * TRACE_SLOT_SIZE
    return traceWorking(
      this.world,
      { ...this.settingsOf(observation), lambda: this.lambda },
      this.slots.subarray(at, at + TRACE_SLOT_SIZE),
      'value',
    )
  }

  protected override beginEpisode(): void {
    this.traces.clear()
  }

  protected override learn(observation: number, _row: number, reward: number, next: number): void {
    const { table, traces, settings, slots } = this
    // An ending has no rows, and nothing ever writes its value: it is 0.
    const ahead = table[next]
    const error = reward + this.discount * ahead - table[observation]
    traces.visit(observation, settings.traces === 'replacing')
    this.updates[observation]++
    for (let i = 0; i < traces.count; i++) {
      const cell = traces.cells[i]
      const old = table[cell]
      const rate = this.rateAt(this.updates[cell])
      const value = old + rate * error * traces.values[cell]
      if (!this.sound(value, cell)) return
      this.noteChange(cell, old)
      table[cell] = value
      if (!this.keepsWorkings) continue
      const at = this.noteUpdate(cell, cell, old, value, reward, ahead, rate)
      slots[at + TRACE_SLOT.trace] = traces.values[cell]
      slots[at + TRACE_SLOT.error] = error
    }
    this.rateAt(this.updates[observation])
    traces.fade(this.discount * this.lambda)
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), ...this.traces.kept() }
  }
}
