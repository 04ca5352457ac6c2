import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { POLICY_SLOT, PreferenceLearner } from './preference-learner'

/**
 * The gradient bandit (Sutton & Barto 2018, section 2.8): after every pull the preferences move by the reward less a
 * baseline, which is none, a constant, or the mean of the rewards seen before in the same context.
 */
export class GradientBandit extends PreferenceLearner {
  protected readonly worthIs = 'reward'
  /** [observations] rewards seen, and their mean */
  private readonly seen: Float64Array
  private readonly means: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, POLICY_SLOT.baseline + 1, false)
    this.seen = new Float64Array(world.model.observations)
    this.means = new Float64Array(world.model.observations)
  }

  override baseline(): Float64Array | null {
    const { observations } = this.world.model
    return this.settings.baseline.kind === 'none'
      ? null
      : Float64Array.from({ length: observations }, (_, o) => this.baselineOf(o))
  }

  protected override learn(observation: number, row: number, reward: number): void {
    // Before the first reward there is no mean: that reward itself is taken, and nothing moves.
    const { kind } = this.settings.baseline
    const first = (kind === 'mean' || kind === 'learned') && this.seen[observation] === 0
    const baseline = first ? reward : this.baselineOf(observation)
    this.means[observation] += (reward - this.means[observation]) / ++this.seen[observation]
    this.improve(observation, row, { time: this.age, worth: reward, baseline, weight: 1 })
  }

  private baselineOf(observation: number): number {
    const { baseline } = this.settings
    switch (baseline.kind) {
      case 'none':
        return 0
      case 'constant':
        return baseline.value
      case 'mean':
      case 'learned':
        return this.means[observation]
    }
  }

  protected override noteOf(): string {
    return this.settings.baseline.kind === 'none'
      ? ' There is no baseline: every reward above 0 makes what was done more likely.'
      : ' The baseline is what rewards were before.'
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), rewardsSeen: this.seen, rewardMeans: this.means }
  }
}
