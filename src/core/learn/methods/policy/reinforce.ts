import type { LearnSettings } from '../../../settings/settings'
import type { Allocate } from '../../greedy-table'
import type { KeptNumber } from '../../kept-number'
import { numbersOf } from '../../kept-number'
import type { World } from '../../world'
import { POLICY_SLOT, PreferenceLearner } from './preference-learner'

/**
 * REINFORCE: Monte Carlo policy gradient with one preference for each action of each observation and a softmax over
 * them (Williams 1992; Sutton & Barto 2018, sections 13.3 and 13.4).
 *
 * After an episode, for each of its steps t in order, with G the discounted return from t on:
 * preference(a) += learning rate x discount^t x (G - baseline) x (1 if a was taken, else 0, less the probability of a now).
 * The baseline is none, a constant, the mean of the returns of earlier episodes, or a value learned of each observation.
 * An episode that the cap cuts off counts only the rewards it got: without values there is nothing to look ahead to.
 */
export class Reinforce extends PreferenceLearner {
  /** The returns of earlier episodes, from each of their steps: how many, and their mean. */
  seen = 0
  mean = 0
  protected readonly worthIs = 'return from t'
  /** [cap] the steps of the episode: observation, row, reward */
  protected readonly observation: Int32Array
  protected readonly row: Int32Array
  protected readonly reward: Float64Array
  protected readonly returns: Float64Array
  /** Of what follows each step. */
  protected readonly followed: Float64Array

  constructor(world: World, settings: LearnSettings, allocate?: Allocate) {
    const { kind } = settings.baseline
    // The fields of runs that were kept before there were baselines.
    super(
      world,
      settings,
      kind === 'none' ? POLICY_SLOT.baseline : POLICY_SLOT.baseline + 1,
      kind === 'learned',
      true,
      allocate,
    )
    this.observation = this.allocate.ints(settings.cap)
    this.row = this.allocate.ints(settings.cap)
    this.reward = this.allocate.floats(settings.cap)
    this.returns = this.allocate.floats(settings.cap)
    this.followed = this.allocate.floats(settings.cap)
  }

  override baseline(): Float64Array | null {
    return this.baselines(() => this.mean)
  }

  /** The exact values of the policy stand on the board, with a learned baseline too. */
  override stateValues(): null {
    return null
  }

  protected override learn(observation: number, row: number, reward: number): void {
    this.observation[this.age] = observation
    this.row[this.age] = row
    this.reward[this.age] = reward
    this.followed[this.age] = this.discount
  }

  /** Returns counted backwards, then one gradient step for each step of the episode, in order. */
  protected override endEpisode(): void {
    const { reward, returns, followed, critic } = this
    const length = this.age + 1
    let sum = 0
    for (let t = length - 1; t >= 0; t--) returns[t] = sum = reward[t] + followed[t] * sum
    let power = 1
    for (let t = 0; t < length; t++) {
      const observation = this.observation[t]
      const judged = {
        time: t,
        worth: returns[t],
        baseline: this.baselineAt(observation, this.mean),
        weight: this.weightOf(power),
      }
      if (critic && !this.criticise(observation, returns[t])) return
      if (!this.improve(observation, this.row[t], judged)) return
      power *= followed[t]
    }
    if (this.settings.baseline.kind === 'mean')
      for (let t = 0; t < length; t++) this.mean += (returns[t] - this.mean) / ++this.seen
  }

  protected override noteOf(): string {
    const { baseline } = this.settings
    const compared = {
      none: '',
      constant: ' The baseline is the constant of the settings.',
      mean: ' The baseline is the mean of the returns of earlier episodes.',
      learned: ' The baseline is the value learned of the state, before this return moved it.',
    }[baseline.kind]
    return `${compared}`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return {
      ...super.keptNumbers(),
      ...(this.settings.baseline.kind === 'mean' ? numbersOf<Reinforce>(this, ['seen', 'mean']) : {}),
    }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const age = Math.max(0, this.age)
    return {
      ...super.keptArrays(),
      // The name in runs that were kept before.
      episodeGroups: this.observation.subarray(0, age),
      episodeRows: this.row.subarray(0, age),
      episodeRewards: this.reward.subarray(0, age),
      episodeDiscounts: this.followed.subarray(0, age),
    }
  }
}
