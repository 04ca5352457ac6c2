import type { LearnSettings } from '../../../settings/settings'
import type { Allocate } from '../../greedy-table'
import type { World } from '../../world'
import { POLICY_SLOT_SIZE, PreferenceLearner } from './preference-learner'
import { noteAhead, sayAhead } from './critic-words'

/**
 * One-step actor-critic (Sutton & Barto 2018, section 13.5): after every step the critic's error, reward + discount ×
 * V(next) − V(here), stands in the place of the return less its baseline, and moves both the value and the preferences.
 */
export class ActorCritic extends PreferenceLearner {
  protected readonly worthIs = 'reward + discount × V(s′)'

  constructor(world: World, settings: LearnSettings, allocate?: Allocate) {
    super(world, settings, POLICY_SLOT_SIZE, true, true, allocate)
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const critic = this.critic!
    const ahead = ended ? 0 : critic[next]
    const worth = reward + this.discount * ahead
    const judged = { time: this.age, worth, baseline: critic[observation], weight: this.weightOf(this.power) }
    noteAhead(this.slots, observation * this.slotSize, reward, ahead)
    if (this.criticise(observation, worth)) this.improve(observation, row, judged)
  }

  protected override noteOf(slot: (field: number) => number): string {
    return sayAhead(slot, this.settings.discount)
  }
}
