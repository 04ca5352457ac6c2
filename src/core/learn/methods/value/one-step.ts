import type { Working } from '../../../explain/working'
import { ControlLearner } from '../../control-learner'
import type { Allocate } from '../../greedy-table'
import type { LearnSettings } from '../../../settings/settings'
import { controlWorking, type Target } from './step-working'
import { ONE_STEP_SLOT, ONE_STEP_SLOT_SIZE } from '../../slots'
import type { World } from '../../world'

/**
 * One-step control with a table of action values: value += learning rate x (reward + discount x ahead − value).
 *
 * - `best`, Q-learning (Watkins 1989; Sutton & Barto 2018, section 6.5): ahead is the largest action value of what comes
 *   next. The next action is chosen after the update.
 * - `taken`, SARSA (Rummery & Niranjan 1994; section 6.4): ahead is the value of the action that will really be taken
 *   next, chosen before the update.
 * - `expected`, Expected SARSA (van Seijen et al. 2009; section 6.6): ahead is the mean of the action values of what
 *   comes next, weighted as the agent would choose now.
 */
export class OneStep extends ControlLearner {
  constructor(
    world: World,
    settings: LearnSettings,
    protected readonly target: Target,
    allocate?: Allocate,
    /** Whether what each update was made of is kept, to be explained later. */
    protected readonly keepsWorkings = true,
  ) {
    super(world, settings, keepsWorkings ? ONE_STEP_SLOT_SIZE : 0, allocate)
  }

  working(observation: number): Working | undefined {
    if (!this.keepsWorkings) return undefined
    return controlWorking(this.world, this.settingsOf(observation), this.slotOf(observation), this.target)
  }

  protected slotOf(observation: number): Float64Array {
    return this.slots.subarray(observation * this.slotSize, (observation + 1) * this.slotSize)
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const { greedy, slots } = this
    let nextRow = -1
    let ahead = greedy.best(next)
    const best = ahead
    if (!ended && this.target !== 'best') {
      if (this.target === 'taken') {
        nextRow = this.chosen = this.choose(next)
        ahead = greedy.values[nextRow]
      } else ahead = this.expected(next)
    }
    const old = greedy.values[row]
    const rate = this.rateAt(this.countUpdate(row))
    const value = old + rate * (reward + this.discount * ahead - old)
    if (!this.sound(value, observation)) return
    this.noteChange(row, old)
    greedy.write(observation, row, value)
    if (!this.keepsWorkings) return
    const at = this.noteUpdate(observation, row, old, value, reward, ahead, rate)
    slots[at + ONE_STEP_SLOT.nextRow] = nextRow
    slots[at + ONE_STEP_SLOT.other] = best
  }

  /** Notes that a row is updated. @returns how often that has been, this time included */
  protected countUpdate(row: number): number {
    return this.visits[row]
  }

  protected override noteNext(row: number): void {
    if (this.target !== 'best' || !this.keepsWorkings) return
    const at = this.world.observation[this.last.state] * ONE_STEP_SLOT_SIZE
    this.slots[at + ONE_STEP_SLOT.nextRow] = row
    this.slots[at + ONE_STEP_SLOT.other] = this.greedy.values[row]
  }
}
