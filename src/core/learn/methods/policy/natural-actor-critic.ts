import { num, say, type Part } from '../../../explain/working'
import type { LearnTable } from '../../learner'
import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { noteAhead, sayAhead } from './critic-words'
import { POLICY_SLOT, POLICY_SLOT_SIZE, PreferenceLearner } from './preference-learner'

/**
 * Natural actor-critic (Kakade 2001; Bhatnagar, Sutton, Ghavamzadeh & Lee 2009, with advantage parameters): the critic's
 * error is learned as an advantage of each action, linear in the gradient of its log-probability. These advantages are
 * the natural gradient: after every episode each preference moves by rate × advantage, however likely its action is.
 */
export class NaturalActorCritic extends PreferenceLearner {
  protected readonly worthIs = 'reward + discount × V(s′)'
  /** [tableRows] */
  private readonly advantages: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, POLICY_SLOT_SIZE, true)
    this.advantages = new Float64Array(world.tableRows)
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    return { ...super.tables(), advantages: { holds: 'action values', numbers: this.advantages } }
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const { advantages, world, softmax, settings, slots } = this
    const critic = this.critic!
    const ahead = ended ? 0 : critic[next]
    const worth = reward + this.discount * ahead
    const baseline = critic[observation]
    if (!this.criticise(observation, worth)) return
    const start = world.tableStart[observation]
    const end = world.tableStart[observation + 1]
    // What the advantages say already, of the action taken and less the mean of all.
    let said = advantages[row]
    for (let r = start; r < end; r++) said -= softmax.probability[r] * advantages[r]
    const rate = this.criticRateAt(observation)
    const step = rate * (worth - baseline - said / settings.temperature)
    for (let r = start; r < end; r++) {
      const value =
        advantages[r] + (step * ((r === row ? 1 : 0) - softmax.probability[r])) / settings.temperature
      if (!this.sound(value, observation)) return
      advantages[r] = value
    }
    const at = observation * this.slotSize
    slots[at + POLICY_SLOT.row] = row
    slots[at + POLICY_SLOT.time] = this.age
    slots[at + POLICY_SLOT.worth] = worth
    slots[at + POLICY_SLOT.baseline] = baseline
    slots[at + POLICY_SLOT.weight] = 1
    slots[at + POLICY_SLOT.episode] = this.log.count + 1
    noteAhead(slots, at, reward, ahead)
    this.updates[row]++
  }

  /** Every preference moves by its advantage. */
  protected override endEpisode(): void {
    const { world, table, softmax, advantages } = this
    for (let o = 0; o < world.model.observations; o++) {
      let moved = false
      for (let r = world.tableStart[o]; r < world.tableStart[o + 1]; r++) {
        if (advantages[r] === 0) continue
        const rate = this.rateAt(Math.max(1, this.updates[r]))
        const value = table[r] + this.ascent.step(r, advantages[r], rate)
        if (!this.sound(value, o)) return
        this.beforePreference[r] = table[r]
        this.beforeProbability[r] = softmax.probability[r]
        this.noteChange(r, table[r])
        table[r] = value
        moved = true
      }
      if (moved) softmax.refresh(o)
    }
  }

  protected override lineOf(r: number): Part[] {
    return [
      say('advantage'),
      num('next', this.advantages[r]),
      say('; preference now'),
      ...this.outcomeParts(r),
    ]
  }

  protected override formula(): Part[] {
    return [
      say('advantage(a) ←'),
      say('advantage(a)', 'next'),
      say('+'),
      say('critic’s rate', 'rate'),
      say('×'),
      say('(error − what the advantages say)', 'reward'),
      say('× (1 if a was taken −'),
      say('probability of a', 'probability'),
      say('); after the episode, preference(a) ← preference(a) + learning rate × advantage(a)'),
    ]
  }

  protected override noteOf(slot: (field: number) => number): string {
    return `${sayAhead(slot, this.settings.discount)} The preferences move by rate × the advantage that is learned from such errors, when the episode is over.`
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), advantages: this.advantages }
  }
}
