import type { Working } from '../../../explain/working'
import { numbersOf, type KeptNumber } from '../../kept-number'
import { ControlLearner } from '../../control-learner'
import type { LearnSettings } from '../../../settings/settings'
import { returnWorking } from '../monte-carlo/return-working'
import { SLOT_SIZE } from '../../slots'
import type { World } from '../../world'

/**
 * n-step SARSA (Sutton & Barto 2018, section 7.2): an action value moves towards the next n rewards and the value of the
 * action taken after them; near the end of an episode towards the rewards that are left. With n = 1 it is SARSA.
 *
 * Rewards of the last n steps are kept in a ring; entry t mod n belongs to step t of the episode.
 */
export class NStepSarsa extends ControlLearner {
  private readonly observations: Int32Array
  private readonly rows: Int32Array
  private readonly rewards: Float64Array
  /** Of what follows each reward. */
  private readonly followed: Float64Array
  /** [tableRows] updates so far: they come n steps after the visits */
  private readonly updates: Float64Array
  /** The first step of the episode whose action has not been updated. */
  pending = 0

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, SLOT_SIZE + 1 + 2 * settings.lookahead)
    const n = settings.lookahead
    this.observations = new Int32Array(n)
    this.rows = new Int32Array(n)
    this.rewards = new Float64Array(n)
    this.followed = new Float64Array(n)
    this.updates = new Float64Array(world.tableRows)
  }

  working(observation: number): Working | undefined {
    const at = observation * this.slotSize
    return returnWorking(
      this.world,
      this.slots.subarray(at, at + this.slotSize),
      this.settings.lookahead,
      'n-step',
    )
  }

  protected override beginEpisode(): void {
    this.pending = 0
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const n = this.settings.lookahead
    const at = this.age % n
    this.observations[at] = observation
    this.rows[at] = row
    this.rewards[at] = reward
    this.followed[at] = this.discount
    if (!ended) this.chosen = this.choose(next)
    if (this.age + 1 - this.pending >= n) this.update(ended ? -1 : this.chosen)
  }

  /** What is still waiting gets the rewards there were, and looks ahead from where the cap cut it off. */
  protected override endEpisode(_group: number, ended: boolean): void {
    while (this.pending <= this.age) this.update(ended ? -1 : this.chosen)
  }

  /** Updates the longest waiting action; `nextRow` is what follows the last reward, -1 for an ending. */
  private update(nextRow: number): void {
    const { greedy, slots, settings } = this
    const n = settings.lookahead
    const until = Math.min(this.pending + n, this.age + 1)
    const ahead = nextRow < 0 ? 0 : greedy.values[nextRow]
    let target = ahead
    for (let t = until - 1; t >= this.pending; t--)
      target = this.rewards[t % n] + this.followed[t % n] * target
    const at = this.pending % n
    const row = this.rows[at]
    const observation = this.observations[at]
    const old = greedy.values[row]
    const rate = this.rateAt(++this.updates[row])
    const value = old + rate * (target - old)
    const from = this.pending++
    if (!this.sound(value, observation)) return
    this.noteChange(row, old)
    greedy.write(observation, row, value)
    const slot = this.noteUpdate(observation, row, old, value, target, ahead, rate)
    slots[slot + SLOT_SIZE] = until - from
    for (let t = from; t < until; t++) {
      slots[slot + SLOT_SIZE + 1 + t - from] = this.rewards[t % n]
      slots[slot + SLOT_SIZE + 1 + n + t - from] = this.followed[t % n]
    }
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...numbersOf<NStepSarsa>(this, ['pending']) }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { observations, rows, rewards, followed, updates } = this
    // The name in runs that were kept before: they must be taken up still.
    return { ...super.keptArrays(), groups: observations, rows, rewards, followed, updates }
  }
}
