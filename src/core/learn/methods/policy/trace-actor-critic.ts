import { num, say, type Part } from '../../../explain/working'
import type { LearnSettings } from '../../../settings/settings'
import type { Allocate } from '../../greedy-table'
import type { World } from '../../world'
import { Traces } from '../traces/traces'
import { noteAhead, sayAhead } from './critic-words'
import { POLICY_SLOT, POLICY_SLOT_SIZE, PreferenceLearner } from './preference-learner'

/** An observation all of whose traces have become smaller than this is forgotten. */
const FORGOTTEN = 1e-9

/**
 * Actor-critic with eligibility traces (Sutton & Barto 2018, section 13.5): as one-step actor-critic, but what an error
 * teaches reaches back, by traces that fade by discount × λ, to the values and preferences of the steps before.
 */
export class TraceActorCritic extends PreferenceLearner {
  protected readonly worthIs = 'error'
  /** Of the values. */
  protected readonly traces: Traces
  /** [tableRows] of the preferences: weighted gradients of log-probabilities, which may be below 0 */
  protected readonly rowTraces: Float64Array
  /** The observations whose rows have traces: how many, and which. */
  protected readonly traced: Int32Array
  protected readonly tracedCount: Int32Array
  /** [tableRows] the traces as they were in the last update */
  private readonly usedTraces: Float64Array

  constructor(world: World, settings: LearnSettings, allocate?: Allocate) {
    super(world, settings, POLICY_SLOT_SIZE, true, false, allocate)
    const { observations } = world.model
    this.traces = new Traces(observations, allocate)
    this.rowTraces = this.allocate.floats(world.tableRows)
    this.usedTraces = new Float64Array(world.tableRows)
    this.traced = this.allocate.ints(observations)
    this.tracedCount = this.allocate.ints(1)
  }

  protected override beginEpisode(): void {
    const { traced, rowTraces, world } = this
    this.traces.clear()
    for (let i = 0; i < this.tracedCount[0]; i++)
      rowTraces.fill(0, world.tableStart[traced[i]], world.tableStart[traced[i] + 1])
    this.tracedCount[0] = 0
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const { settings, slots } = this
    const critic = this.critic!
    const ahead = ended ? 0 : critic[next]
    const worth = reward + this.discount * ahead
    const baseline = critic[observation]
    const weight = this.weightOf(this.power)
    const rate = this.rateAt(++this.updates[row])
    this.leaveTraces(observation, row, weight)
    if (!this.moveCritic(observation, worth - baseline)) return
    for (let i = 0; i < this.tracedCount[0]; i++) {
      const o = this.traced[i]
      if (!this.movePreferences(o, worth - baseline, rate)) return
      const at = o * this.slotSize
      if (o === observation) slots[at + POLICY_SLOT.row] = row
      slots[at + POLICY_SLOT.time] = this.age
      slots[at + POLICY_SLOT.worth] = worth
      slots[at + POLICY_SLOT.baseline] = baseline
      slots[at + POLICY_SLOT.weight] = weight
      slots[at + POLICY_SLOT.episode] = this.log.count + 1
      slots[at + POLICY_SLOT.rate] = rate
      noteAhead(slots, at, reward, ahead)
    }
    this.notes?.push({
      time: this.age,
      observation,
      row,
      worth,
      baseline,
      advantage: worth - baseline,
      weight,
      rate,
    })
    this.fade(this.discount * settings.lambda)
  }

  /** The step leaves its mark: 1 for the value, the weighted gradient of its log-probability for the preferences. */
  private leaveTraces(observation: number, row: number, weight: number): void {
    const { rowTraces, traces, traced, world, softmax, settings } = this
    if (traces.values[observation] === 0) {
      // It may have traces of its preferences left from before.
      let known = false
      for (let i = 0; i < this.tracedCount[0] && !known; i++) known = traced[i] === observation
      if (!known) traced[this.tracedCount[0]++] = observation
    }
    traces.visit(observation, settings.traces === 'replacing')
    for (let r = world.tableStart[observation]; r < world.tableStart[observation + 1]; r++)
      rowTraces[r] += (weight * ((r === row ? 1 : 0) - softmax.probability[r])) / settings.temperature
  }

  private moveCritic(observation: number, error: number): boolean {
    const { traces } = this
    const critic = this.critic!
    this.criticUpdates![observation]++
    for (let i = 0; i < traces.count; i++) {
      const o = traces.cells[i]
      const value = critic[o] + this.criticRateAt(o) * error * traces.values[o]
      if (!this.sound(value, o)) return false
      critic[o] = value
    }
    return true
  }

  private movePreferences(o: number, error: number, rate: number): boolean {
    const { rowTraces, usedTraces, gradient, world, softmax } = this
    const start = world.tableStart[o]
    const end = world.tableStart[o + 1]
    this.fillGradient(o, -1, 0, 1)
    for (let r = start; r < end; r++) {
      usedTraces[r] = rowTraces[r]
      gradient[r] += error * rowTraces[r]
    }
    if (!this.climb(start, end, rate, o)) return false
    softmax.refresh(o)
    return true
  }

  private fade(factor: number): void {
    const { rowTraces, traced, world } = this
    this.traces.fade(factor)
    let kept = 0
    for (let i = 0; i < this.tracedCount[0]; i++) {
      let most = 0
      for (let r = world.tableStart[traced[i]]; r < world.tableStart[traced[i] + 1]; r++) {
        rowTraces[r] *= factor
        most = Math.max(most, Math.abs(rowTraces[r]))
      }
      if (most > FORGOTTEN) traced[kept++] = traced[i]
      else rowTraces.fill(0, world.tableStart[traced[i]], world.tableStart[traced[i] + 1])
    }
    this.tracedCount[0] = kept
  }

  protected override lineOf(r: number, row: number, slot: (field: number) => number): Part[] {
    if (!this.isPlain) return super.lineOf(r, row, slot)
    return [
      num('old', this.beforePreference[r]),
      say('+'),
      num('rate', slot(POLICY_SLOT.rate)),
      say('×'),
      num('reward', slot(POLICY_SLOT.worth) - slot(POLICY_SLOT.baseline)),
      say('× trace'),
      num('plain', this.usedTraces[r]),
      say('='),
      ...this.outcomeParts(r),
    ]
  }

  protected override formula(): Part[] {
    return [
      say('preference(a) ←'),
      say('preference(a)', 'old'),
      say('+'),
      say('learning rate', 'rate'),
      say('×'),
      say('error', 'reward'),
      say('× trace(a)'),
    ]
  }

  protected override noteOf(slot: (field: number) => number): string {
    return `${sayAhead(slot, this.settings.discount)} A trace is the sum of what earlier steps left here, fading by discount × λ.`
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { rowTraces, usedTraces, traced, tracedCount } = this
    return { ...super.keptArrays(), ...this.traces.kept(), rowTraces, usedTraces, traced, tracedCount }
  }
}
