import { num, say, type Part } from '../../../explain/working'
import { policyGradient, softmaxGradient, type PolicyGradient } from '../../../plan/policy-gradient'
import { SMALL_CHAIN } from '../../../plan/evaluate'
import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { POLICY_SLOT, PreferenceLearner, shorten } from './preference-learner'

/**
 * Ascent along the exact policy gradient, from the model, with nothing sampled: what the others estimate (Sutton,
 * McAllester, Singh & Mansour 2000), or along the natural gradient (Kakade 2001), which for a softmax moves each preference
 * by its advantage. A step counts as an episode; its return is the exact value of the policy before it.
 */
export class ExactAscent extends PreferenceLearner {
  protected readonly worthIs = 'advantage'
  /** [tableRows] the gradient that was followed last */
  private readonly followed: Float64Array
  /** [states] the exact values found last: where the next ones of a large model begin */
  private readonly values: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, POLICY_SLOT.baseline, false)
    this.followed = new Float64Array(world.tableRows)
    this.values = new Float64Array(world.model.states)
  }

  override advance(limit: number, episodes = Infinity): number {
    let taken = 0
    while (taken < limit && this.log.count < episodes && this.status.outcome === 'learning') {
      if (!this.iterate()) break
      taken++
    }
    return taken
  }

  /** One step. @returns false where there is none to take */
  private iterate(): boolean {
    const { world, settings, softmax, followed, table, slots } = this
    const { model, tableStart } = world
    this.changes.count = 0
    this.tick()
    const policy = world.toModelRows(softmax.probability)
    const exact = policyGradient(
      model,
      policy,
      settings.discount,
      model.states > SMALL_CHAIN ? { initial: this.values } : {},
    )
    if (!exact) {
      this.status = {
        outcome: 'stopped',
        reason:
          'The exact value of the policy could not be worked out: it has none, or the model is too large.',
      }
      return false
    }
    this.values.set(exact.values)
    followed.set(
      settings.direction === 'natural'
        ? this.meanAdvantages(exact)
        : softmaxGradient(model, tableStart, policy, exact, settings.temperature),
    )
    this.addEntropy(exact)
    shorten(followed, 0, followed.length, settings.normLimit)
    const steps = followed.map((gradient, r) => this.ascent.step(r, gradient, this.rateAt(this.steps + 1)))
    for (let o = 0; o < model.observations; o++)
      for (let r = tableStart[o]; r < tableStart[o + 1]; r++)
        if (!this.sound(table[r] + steps[r], o)) return false
    for (let o = 0; o < model.observations; o++) {
      if (tableStart[o] === tableStart[o + 1]) continue
      for (let r = tableStart[o]; r < tableStart[o + 1]; r++) {
        this.beforePreference[r] = table[r]
        this.beforeProbability[r] = softmax.probability[r]
        if (steps[r] !== 0) this.noteChange(r, table[r])
        table[r] += steps[r]
      }
      softmax.refresh(o)
      const at = o * this.slotSize
      slots[at + POLICY_SLOT.row] = best(followed, tableStart[o], tableStart[o + 1])
      slots[at + POLICY_SLOT.time] = 0
      slots[at + POLICY_SLOT.episode] = this.log.count + 1
      slots[at + POLICY_SLOT.rate] = this.rate
    }
    this.steps++
    this.log.add(exact.start, 1, false)
    this.checkStop()
    return true
  }

  /** [tableRows] the advantage of each action, over the states that look alike by how often they are met. */
  private meanAdvantages({ occupancy, advantages }: PolicyGradient): Float64Array {
    const { settings } = this
    const { model, tableStart } = this.world
    const mean = new Float64Array(this.table.length)
    const met = new Float64Array(model.observations)
    for (let s = 0; s < model.states; s++) met[model.observation[s]] += occupancy[s]
    for (let s = 0; s < model.states; s++) {
      const o = model.observation[s]
      if (!(met[o] > 0)) continue
      const shift = tableStart[o] - model.rowStart[s]
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        mean[r + shift] += (settings.temperature * occupancy[s] * advantages[r]) / met[o]
    }
    return mean
  }

  /** What the entropy bonus adds to the gradient, each visit of a state weighed as its rewards are. */
  private addEntropy({ occupancy }: PolicyGradient): void {
    const { settings, world, softmax, followed } = this
    const { entropy, temperature, direction } = settings
    if (entropy === 0) return
    const { model, tableStart } = world
    const met = new Float64Array(model.observations)
    for (let s = 0; s < model.states; s++) met[model.observation[s]] += occupancy[s]
    for (let o = 0; o < model.observations; o++) {
      if (!(met[o] > 0)) continue
      const now = softmax.entropy(o)
      for (let r = tableStart[o]; r < tableStart[o + 1]; r++) {
        const scale = direction === 'natural' ? temperature : (met[o] * softmax.probability[r]) / temperature
        followed[r] -= entropy * scale * (softmax.logProbability(o, r) + now)
      }
    }
  }

  /** No step is taken in the world. */
  protected override learn(): void {}

  protected override lineOf(r: number): Part[] {
    return [
      num('old', this.beforePreference[r]),
      say('+ step along'),
      num('reward', this.followed[r]),
      say('='),
      num('result', this.table[r]),
      say('; probability'),
      num('probability', this.beforeProbability[r]),
      say('→'),
      num('probability', this.softmax.probability[r]),
    ]
  }

  protected override formula(): Part[] {
    return this.settings.direction === 'natural'
      ? [
          say('preference(a) ←'),
          say('preference(a)', 'old'),
          say('+ learning rate ×'),
          say('advantage(a)', 'reward'),
        ]
      : [
          say('preference(a) ←'),
          say('preference(a)', 'old'),
          say('+ learning rate × how often s is met ×'),
          say('probability(a)', 'probability'),
          say('×'),
          say('advantage(a)', 'reward'),
        ]
  }

  protected override explanation(): string {
    return 'All from the model: nothing was sampled. The marked action gained most.'
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), followed: this.followed, values: this.values }
  }
}

function best(vector: Float64Array, start: number, end: number): number {
  let row = start
  for (let r = start + 1; r < end; r++) if (vector[r] > vector[row]) row = r
  return row
}
