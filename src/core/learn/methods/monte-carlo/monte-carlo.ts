import type { Working } from '../../../explain/working'
import { ControlLearner } from '../../control-learner'
import { Prediction } from '../prediction/td'
import { returnWorking } from './return-working'
import type { LearnSettings } from '../../../settings/settings'
import { RETURN_SLOT, RETURN_SLOT_SIZE, SHOWN, SLOT } from '../../slots'
import type { World } from '../../world'

/** An episode as it was lived: cell, observation and reward of each step. Grows as episodes do. */
class Episode {
  private cells = new Int32Array(256)
  private observations = new Int32Array(256)
  private rewards = new Float64Array(256)
  private returns = new Float64Array(256)
  private discounts = new Float64Array(256)
  /** [cells] the step of the first visit; holds for cells of the episode only */
  private readonly first: Int32Array

  constructor(tableSize: number) {
    this.first = new Int32Array(tableSize)
  }

  /** @param discount  of what follows */
  add(at: number, cell: number, observation: number, reward: number, discount: number): void {
    this.makeRoom(at + 1)
    this.cells[at] = cell
    this.observations[at] = observation
    this.rewards[at] = reward
    this.discounts[at] = discount
  }

  makeRoom(size: number): void {
    while (this.cells.length < size) {
      this.cells = doubled(this.cells, Int32Array)
      this.observations = doubled(this.observations, Int32Array)
      this.rewards = doubled(this.rewards, Float64Array)
      this.discounts = doubled(this.discounts, Float64Array)
      this.returns = new Float64Array(this.cells.length)
    }
  }

  /** What there is of it after `age` steps. */
  kept(age: number): Record<string, Float64Array | Int32Array> {
    return {
      episodeCells: this.cells.subarray(0, age),
      // The name under which runs were kept from the first.
      episodeGroups: this.observations.subarray(0, age),
      episodeRewards: this.rewards.subarray(0, age),
      episodeDiscounts: this.discounts.subarray(0, age),
    }
  }

  /**
   * Counts returns backwards, and has what is to be counted moved towards them, from the last step to the first.
   * @param ahead  what comes after the last step
   * @param move   moves a cell towards a return; null ends the round
   */
  learnBackwards(
    length: number,
    ahead: number,
    { counted }: LearnSettings,
    { next, step }: { next: number; step: number },
    slots: Float64Array,
    move: (observation: number, cell: number, returned: number) => Moved | null,
  ): void {
    const { cells, observations, rewards, discounts, returns, first } = this
    for (let t = length - 1; t >= 0; t--) first[cells[t]] = t
    let returned = ahead
    for (let t = length - 1; t >= 0; t--) {
      returns[t] = returned = rewards[t] + discounts[t] * returned
      if (counted === 'first' && first[cells[t]] !== t) continue
      const moved = move(observations[t], cells[t], returned)
      if (!moved) return
      const at = observations[t] * RETURN_SLOT_SIZE
      slots[at + SLOT.row] = cells[t]
      slots[at + SLOT.old] = moved.old
      slots[at + SLOT.reward] = returned
      slots[at + SLOT.next] = next
      slots[at + SLOT.ahead] = ahead
      slots[at + SLOT.result] = moved.result
      slots[at + SLOT.step] = step
      slots[at + SLOT.rate] = moved.rate
      slots[at + RETURN_SLOT.length] = length - t
      for (let k = 0; k < SHOWN && t + k < length; k++) {
        slots[at + RETURN_SLOT.rewards + k] = rewards[t + k]
        slots[at + RETURN_SLOT.discounts + k] = discounts[t + k]
      }
      slots[at + RETURN_SLOT.rest] = t + SHOWN < length ? returns[t + SHOWN] : ahead
    }
  }
}

interface Moved {
  old: number
  result: number
  rate: number
}

function doubled<T extends Int32Array | Float64Array>(array: T, kind: new (length: number) => T): T {
  const longer = new kind(array.length * 2)
  longer.set(array as never)
  return longer
}

/**
 * On-policy Monte Carlo control (Sutton & Barto 2018, section 5.4): after an episode every action taken moves towards the
 * return that followed, the first time it was taken in the episode or every time. Acts by its table, with exploration.
 *
 * An episode that the cap cut off goes on, so to speak, with the mean of the action values where it was left, weighed
 * as the agent would choose there.
 */
export class MonteCarloControl extends ControlLearner {
  private readonly episode: Episode
  /** [tableRows] updates so far */
  private readonly updates: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, RETURN_SLOT_SIZE)
    this.updates = new Float64Array(world.tableRows)
    this.episode = new Episode(world.tableRows)
  }

  working(observation: number): Working | undefined {
    const at = observation * RETURN_SLOT_SIZE
    return returnWorking(this.world, this.slots.subarray(at, at + RETURN_SLOT_SIZE), SHOWN, 'action value')
  }

  protected override learn(observation: number, row: number, reward: number): void {
    this.episode.add(this.age, row, observation, reward, this.discount)
  }

  protected override endEpisode(left: number, ended: boolean): void {
    const { greedy, updates } = this
    this.episode.learnBackwards(
      this.age + 1,
      ended ? 0 : this.expected(left),
      this.settings,
      { next: this.last.next, step: this.steps },
      this.slots,
      (observation, row, returned) => {
        const rate = this.rateAt(++updates[row])
        const old = greedy.values[row]
        const result = old + rate * (returned - old)
        if (!this.sound(result, observation)) return null
        this.noteChange(row, old)
        greedy.write(observation, row, result)
        return { old, result, rate }
      },
    )
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), updates: this.updates, ...this.episode.kept(Math.max(0, this.age)) }
  }

  protected override makeRoom(): void {
    this.episode.makeRoom(this.age)
  }
}

/**
 * Monte Carlo prediction (Sutton & Barto 2018, section 5.1; first and every visit: Singh & Sutton 1996): what a given
 * policy is worth, from the returns that followed each state. With a learning rate of 1/n it is their plain mean.
 *
 * An episode that the cap cut off goes on, so to speak, with the value of the state where it was left.
 */
export class MonteCarloPrediction extends Prediction {
  private readonly episode: Episode

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, RETURN_SLOT_SIZE)
    this.episode = new Episode(this.table.length)
  }

  working(observation: number): Working | undefined {
    const at = observation * RETURN_SLOT_SIZE
    return returnWorking(this.world, this.slots.subarray(at, at + RETURN_SLOT_SIZE), SHOWN, 'value')
  }

  protected override learn(observation: number, _row: number, reward: number): void {
    this.episode.add(this.age, observation, observation, reward, this.discount)
  }

  protected override endEpisode(left: number, ended: boolean): void {
    const { table, updates } = this
    this.episode.learnBackwards(
      this.age + 1,
      ended ? 0 : table[left],
      this.settings,
      { next: this.last.next, step: this.steps },
      this.slots,
      (observation, _cell, returned) => {
        const rate = this.rateAt(++updates[observation])
        const old = table[observation]
        const result = old + rate * (returned - old)
        if (!this.sound(result, observation)) return null
        this.noteChange(observation, old)
        table[observation] = result
        return { old, result, rate }
      },
    )
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), ...this.episode.kept(Math.max(0, this.age)) }
  }

  protected override makeRoom(): void {
    this.episode.makeRoom(this.age)
  }
}
