import type { LearnSettings } from '../../../settings/settings'
import { numbersOf, type KeptNumber } from '../../kept-number'
import type { World } from '../../world'
import { POLICY_SLOT, PreferenceLearner } from './preference-learner'

/**
 * Actor-critic with generalised advantages (Schulman, Moritz, Levine, Jordan & Abbeel 2016): it waits for n steps, or the
 * end of the episode, and then judges each of them by Σ (discount × λ)ᵏ × the critic's error k steps later. With λ = 0
 * each step is judged by its own error; with λ = 1 by the rewards of the n steps and the critic's value after them.
 */
export class GeneralisedAdvantage extends PreferenceLearner {
  /** Steps that wait. */
  waiting = 0
  /** The weight of the first of them. */
  firstPower = 1
  protected readonly worthIs = 'λ-return from t'
  private readonly observation: Int32Array
  private readonly row: Int32Array
  private readonly reward: Float64Array
  private readonly followed: Float64Array
  private readonly advantage: Float64Array
  private readonly before: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, POLICY_SLOT.baseline + 1, true, true)
    const size = Math.min(settings.lookahead, settings.cap)
    this.observation = new Int32Array(size)
    this.row = new Int32Array(size)
    this.reward = new Float64Array(size)
    this.followed = new Float64Array(size)
    this.advantage = new Float64Array(size)
    this.before = new Float64Array(size)
  }

  protected override beginEpisode(): void {
    this.waiting = 0
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    if (this.waiting === 0) this.firstPower = this.power
    const i = this.waiting++
    this.observation[i] = observation
    this.row[i] = row
    this.reward[i] = reward
    this.followed[i] = this.discount
    if (this.waiting === this.row.length) this.judge(next, ended, this.age)
  }

  protected override endEpisode(next: number, ended: boolean): void {
    if (this.waiting > 0) this.judge(next, ended, this.age)
  }

  /** Judges the steps that wait, the last of which was step `last` of the episode, and learns from them. */
  private judge(next: number, ended: boolean, last: number): void {
    const { observation, row, reward, followed, advantage, before, settings, waiting } = this
    const critic = this.critic!
    let sum = 0
    for (let i = waiting - 1; i >= 0; i--) {
      before[i] = critic[observation[i]]
      const ahead = i < waiting - 1 ? before[i + 1] : ended ? 0 : critic[next]
      const error = reward[i] + followed[i] * ahead - before[i]
      advantage[i] = sum = error + followed[i] * settings.lambda * sum
    }
    let power = this.firstPower
    this.waiting = 0
    for (let i = 0; i < waiting; i++) {
      const worth = advantage[i] + before[i]
      const judged = {
        time: last - waiting + 1 + i,
        worth,
        baseline: before[i],
        weight: this.weightOf(power),
      }
      if (!this.criticise(observation[i], worth)) return
      if (!this.improve(observation[i], row[i], judged, advantage[i])) return
      power *= followed[i]
    }
  }

  protected override noteOf(): string {
    return ` Judged by ${this.settings.lookahead} steps: the critic’s errors from there on, each fading by discount × λ, and its value of the state itself.`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...numbersOf<GeneralisedAdvantage>(this, ['waiting', 'firstPower']) }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { waiting } = this
    return {
      ...super.keptArrays(),
      waitingObservations: this.observation.subarray(0, waiting),
      waitingRows: this.row.subarray(0, waiting),
      waitingRewards: this.reward.subarray(0, waiting),
      waitingDiscounts: this.followed.subarray(0, waiting),
    }
  }
}
