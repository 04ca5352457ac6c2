import { num, say, type Working, type WorkingLine } from '../../../explain/working'
import { Following } from '../../explore/following'
import type { LearnSettings } from '../../../settings/settings'
import { TabularLearner } from '../../tabular-learner'
import type { LearnTable } from '../../learner'
import type { World } from '../../world'
import { exponential } from '../../../random/exponential'

/** Fields of an update kept for each observation, so that it can be explained later. */
const TRACE = { row: 0, time: 1, returned: 2, scale: 3, episode: 4, rate: 5 } as const
const TRACE_SIZE = 6

/**
 * REINFORCE in its plain form: Monte Carlo policy gradient with one preference for each action of each
 * observation and a softmax over them (Williams 1992; Sutton & Barto 2018, section 13.3).
 *
 * After an episode, for each of its steps t in order, with G the discounted return from t on:
 * preference(a) += learning rate x discount^t x G x (1 if a was taken, else 0, less the probability of a now).
 * An episode that the cap cuts off counts only the rewards it got: without values there is nothing to look ahead to.
 */
export class Reinforce extends TabularLearner {
  readonly table: Float64Array
  protected readonly actor: Following
  /** [tableRows] the softmax of the preferences, kept current */
  private readonly probability: Float64Array
  /** [tableRows] preferences and probabilities before the last update of their observation */
  private readonly beforePreference: Float64Array
  private readonly beforeProbability: Float64Array
  /** [cap] the steps of the episode: observation, row, reward */
  private readonly observation: Int32Array
  private readonly row: Int32Array
  private readonly reward: Float64Array
  private readonly returns: Float64Array
  /** Of what follows each step. */
  private readonly followed: Float64Array
  /** [tableRows] updates after which the row had been taken */
  private readonly updates: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, TRACE_SIZE)
    const rows = world.tableRows
    this.table = new Float64Array(rows)
    this.fillStart(this.table)
    this.probability = new Float64Array(rows)
    this.beforePreference = new Float64Array(rows)
    this.beforeProbability = new Float64Array(rows)
    this.observation = new Int32Array(settings.cap)
    this.row = new Int32Array(settings.cap)
    this.reward = new Float64Array(settings.cap)
    this.returns = new Float64Array(settings.cap)
    this.followed = new Float64Array(settings.cap)
    this.updates = new Float64Array(rows)
    this.actor = new Following(world.tableStart, this.probability, this.exploration)
    this.tableChanged()
  }

  override policy(): Float64Array {
    return this.probability.slice()
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    return { preferences: { holds: 'preferences', numbers: this.table } }
  }

  override stateValues(): null {
    return null
  }

  working(observation: number): Working | undefined {
    const { world, table, probability, slots, beforePreference, beforeProbability } = this
    const at = observation * TRACE_SIZE
    const row = slots[at + TRACE.row]
    if (row < 0) return undefined
    const { labels, actions } = world.model
    const [returned, scale, time, episode, rate] = [
      TRACE.returned,
      TRACE.scale,
      TRACE.time,
      TRACE.episode,
      TRACE.rate,
    ].map((f) => slots[at + f])
    const lines: WorkingLine[] = []
    for (let r = world.tableStart[observation]; r < world.tableStart[observation + 1]; r++) {
      const taken = r === row ? 1 : 0
      lines.push({
        label: actions[world.tableAction[r]],
        strong: taken === 1,
        parts: [
          num('old', beforePreference[r]),
          say('+'),
          num('rate', rate),
          say('×'),
          num('rate', scale),
          say('×'),
          num('reward', returned),
          say('× ('),
          num('plain', taken),
          say('−'),
          num('probability', beforeProbability[r]),
          say(') ='),
          num('result', table[r]),
          say('; probability now'),
          num('probability', probability[r]),
        ],
      })
    }
    return {
      title: `${labels[world.observation.indexOf(observation)]}, step ${time + 1} of episode ${episode}`,
      formula: [
        say('preference(a) ←'),
        say('preference(a)', 'old'),
        say('+'),
        say('learning rate', 'rate'),
        say('×'),
        say('discountᵗ', 'rate'),
        say('×'),
        say('return from t', 'reward'),
        say('× (1 if a was taken −'),
        say('probability of a', 'probability'),
        say(')'),
      ],
      lines,
      digits: 5,
      note: `The agent took ${actions[world.tableAction[row]]}; the discounted return from there to the end of the episode stands in place of a target.`,
    }
  }

  protected override learn(observation: number, row: number, reward: number): void {
    this.observation[this.age] = observation
    this.row[this.age] = row
    this.reward[this.age] = reward
    this.followed[this.age] = this.discount
  }

  /** Returns counted backwards, then one gradient step for each step of the episode, in order. */
  protected override endEpisode(): void {
    const { reward, returns, followed } = this
    const length = this.age + 1
    let sum = 0
    for (let t = length - 1; t >= 0; t--) returns[t] = sum = reward[t] + followed[t] * sum
    let scale = 1
    for (let t = 0; t < length; t++) {
      if (!this.update(this.observation[t], this.row[t], t, returns[t], scale)) return
      scale *= followed[t]
    }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { beforePreference, beforeProbability, updates } = this
    const age = Math.max(0, this.age)
    return {
      ...super.keptArrays(),
      beforePreference,
      beforeProbability,
      updates,
      // The name in runs that were kept before.
      episodeGroups: this.observation.subarray(0, age),
      episodeRows: this.row.subarray(0, age),
      episodeRewards: this.reward.subarray(0, age),
      episodeDiscounts: this.followed.subarray(0, age),
    }
  }

  protected override tableChanged(): void {
    for (let observation = 0; observation < this.world.tableStart.length - 1; observation++)
      this.softmax(observation)
  }

  private update(observation: number, taken: number, time: number, returned: number, scale: number): boolean {
    const { table, probability, beforePreference, beforeProbability, slots } = this
    const start = this.world.tableStart[observation]
    const end = this.world.tableStart[observation + 1]
    const rate = this.rateAt(++this.updates[taken])
    const step = rate * scale * returned
    if (!this.sound(table[taken] + step, observation)) return false
    for (let r = start; r < end; r++) {
      beforePreference[r] = table[r]
      beforeProbability[r] = probability[r]
      this.noteChange(r, table[r])
      table[r] += step * ((r === taken ? 1 : 0) - probability[r])
    }
    const at = observation * TRACE_SIZE
    slots[at + TRACE.row] = taken
    slots[at + TRACE.time] = time
    slots[at + TRACE.returned] = returned
    slots[at + TRACE.scale] = scale
    slots[at + TRACE.episode] = this.log.count + 1
    slots[at + TRACE.rate] = rate
    this.softmax(observation)
    return true
  }

  /** The largest preference is taken off first, so that no exponential overflows and the sum is at least 1. */
  private softmax(observation: number): void {
    const { table, probability } = this
    const start = this.world.tableStart[observation]
    const end = this.world.tableStart[observation + 1]
    let most = -Infinity
    for (let r = start; r < end; r++) if (table[r] > most) most = table[r]
    let sum = 0
    for (let r = start; r < end; r++) {
      probability[r] = exponential(table[r] - most)
      sum += probability[r]
    }
    for (let r = start; r < end; r++) probability[r] /= sum
  }
}
