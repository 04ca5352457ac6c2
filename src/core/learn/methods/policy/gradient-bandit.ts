import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { POLICY_SLOT, PreferenceLearner } from './preference-learner'

/**
 * The gradient bandit (Sutton & Barto 2018, section 2.8): after every pull the preferences move by the reward less a
 * baseline, which is none, a constant, the mean of the rewards seen before in the same context, or a value learned of it.
 */
export class GradientBandit extends PreferenceLearner {
  protected readonly worthIs = 'reward'
  protected override readonly weighted = false
  /** [observations] rewards seen, and their mean */
  private readonly seen: Float64Array
  private readonly means: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, POLICY_SLOT.baseline + 1, settings.baseline.kind === 'learned')
    this.seen = new Float64Array(world.model.observations)
    this.means = new Float64Array(world.model.observations)
  }

  override baseline(): Float64Array | null {
    return this.baselines((o) => this.means[o])
  }

  protected override learn(observation: number, row: number, reward: number): void {
    // Before the first reward there is no mean: that reward itself is taken, and nothing moves.
    const mean = this.seen[observation] === 0 ? reward : this.means[observation]
    const baseline = this.baselineAt(observation, mean)
    if (this.critic && !this.criticise(observation, reward)) return
    this.means[observation] += (reward - this.means[observation]) / ++this.seen[observation]
    this.improve(observation, row, { time: this.age, worth: reward, baseline, weight: 1 })
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
