import { num, say, type Working, type WorkingLine } from '../explain/working'
import { EpisodeLog } from '../learn/episode-log'
import type { LastStep, Learner, LearnSettings } from '../learn/learner'
import type { World } from '../learn/world'
import { exponential } from '../random/exponential'
import { RandomStream } from '../random/generator'

/** Fields of an update kept for each observation, so that it can be explained later. */
const TRACE = { row: 0, time: 1, gain: 2, scale: 3, episode: 4 } as const
const TRACE_SIZE = 5

/**
 * REINFORCE in its plain form: Monte Carlo policy gradient with one preference for each action of each
 * observation and a softmax over them (Williams 1992; Sutton & Barto 2018, section 13.3).
 *
 * After an episode, for each of its steps t in order, with G the discounted return from t on:
 * preference(a) += learning rate x discount^t x G x (1 if a was taken, else 0, less the probability of a now).
 * An episode that the cap cuts off counts only the rewards it got: without values there is nothing to look ahead to.
 */
export class Reinforce implements Learner {
  readonly log: EpisodeLog
  readonly table: Float64Array
  readonly visits: Float64Array
  readonly last: LastStep = { state: -1, row: -1, reward: 0, next: -1, explored: false, ended: 'no' }
  steps = 0
  state = -1
  age = 0
  /** [tableRows] the softmax of the preferences, kept current */
  private readonly probability: Float64Array
  private readonly trace: Float64Array
  /** [tableRows] preferences and probabilities before the last update of their observation */
  private readonly beforePreference: Float64Array
  private readonly beforeProbability: Float64Array
  private readonly environment: RandomStream
  private readonly exploration: RandomStream
  /** [cap] the steps of the episode: observation, row, reward */
  private readonly group: Int32Array
  private readonly row: Int32Array
  private readonly reward: Float64Array
  private readonly gain: Float64Array

  constructor(
    readonly world: World,
    readonly settings: LearnSettings,
  ) {
    const rows = world.tableRows
    this.log = new EpisodeLog(settings.episodes)
    this.table = new Float64Array(rows)
    this.visits = new Float64Array(rows)
    this.probability = new Float64Array(rows)
    this.trace = new Float64Array(world.model.observations * TRACE_SIZE).fill(-1)
    this.beforePreference = new Float64Array(rows)
    this.beforeProbability = new Float64Array(rows)
    this.group = new Int32Array(settings.cap)
    this.row = new Int32Array(settings.cap)
    this.reward = new Float64Array(settings.cap)
    this.gain = new Float64Array(settings.cap)
    this.environment = new RandomStream(settings.seed, 'environment', settings.run)
    this.exploration = new RandomStream(settings.seed, 'exploration', settings.run)
    for (let group = 0; group < world.model.observations; group++) this.softmax(group)
  }

  policy(): Float64Array {
    return this.probability.slice()
  }

  advance(limit: number, untilEpisodeEnds = false): number {
    const { world, environment, log, last, visits } = this
    const { cap, episodes } = this.settings
    const { observation, ending, tableStart } = world
    let taken = 0
    while (taken < limit) {
      if (this.state < 0) {
        if (log.count >= episodes) break
        this.state = world.begin(environment)
        this.age = 0
      }
      const state = this.state
      const group = observation[state]
      const row = this.sample(group)
      world.step(state, row - tableStart[group], environment)
      const next = world.next
      this.group[this.age] = group
      this.row[this.age] = row
      this.reward[this.age] = world.reward
      visits[row]++
      this.age++
      this.steps++
      taken++
      last.state = state
      last.row = row
      last.reward = world.reward
      last.next = next
      last.ended = 'no'
      this.state = next
      if (ending[next] === 1 || this.age >= cap) {
        last.ended = ending[next] === 1 ? 'ending' : 'cap'
        this.learnFromEpisode()
        this.state = -1
        if (untilEpisodeEnds) break
      }
    }
    return taken
  }

  working(group: number): Working | undefined {
    const { world, table, probability, trace, beforePreference, beforeProbability } = this
    const at = group * TRACE_SIZE
    const row = trace[at + TRACE.row]
    if (row < 0) return undefined
    const { labels, actions } = world.model
    const [gain, scale, time, episode] = [TRACE.gain, TRACE.scale, TRACE.time, TRACE.episode].map(
      (f) => trace[at + f],
    )
    const lines: WorkingLine[] = []
    for (let r = world.tableStart[group]; r < world.tableStart[group + 1]; r++) {
      const taken = r === row ? 1 : 0
      lines.push({
        label: actions[world.tableAction[r]],
        strong: taken === 1,
        parts: [
          num('old', beforePreference[r]),
          say('+'),
          num('rate', this.settings.learningRate),
          say('×'),
          num('rate', scale),
          say('×'),
          num('reward', gain),
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
      title: `${labels[world.observation.indexOf(group)]}, step ${time + 1} of episode ${episode}`,
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

  /** Returns counted backwards, then one gradient step for each step of the episode, in order. */
  private learnFromEpisode(): void {
    const { reward, gain, age } = this
    const { discount, learningRate } = this.settings
    let sum = 0
    for (let t = age - 1; t >= 0; t--) {
      sum = reward[t] + discount * sum
      gain[t] = sum
    }
    this.log.add(sum)
    let scale = 1
    for (let t = 0; t < age; t++) {
      this.update(this.group[t], this.row[t], t, gain[t], scale, learningRate)
      scale *= discount
    }
  }

  private update(
    group: number,
    taken: number,
    time: number,
    gain: number,
    scale: number,
    rate: number,
  ): void {
    const { table, probability, beforePreference, beforeProbability, trace } = this
    const start = this.world.tableStart[group]
    const end = this.world.tableStart[group + 1]
    const step = rate * scale * gain
    for (let r = start; r < end; r++) {
      beforePreference[r] = table[r]
      beforeProbability[r] = probability[r]
      table[r] += step * ((r === taken ? 1 : 0) - probability[r])
    }
    const at = group * TRACE_SIZE
    trace[at + TRACE.row] = taken
    trace[at + TRACE.time] = time
    trace[at + TRACE.gain] = gain
    trace[at + TRACE.scale] = scale
    trace[at + TRACE.episode] = this.log.count
    this.softmax(group)
  }

  /** The largest preference is taken off first, so that no exponential overflows and the sum is at least 1. */
  private softmax(group: number): void {
    const { table, probability } = this
    const start = this.world.tableStart[group]
    const end = this.world.tableStart[group + 1]
    let most = -Infinity
    for (let r = start; r < end; r++) if (table[r] > most) most = table[r]
    let sum = 0
    for (let r = start; r < end; r++) {
      probability[r] = exponential(table[r] - most)
      sum += probability[r]
    }
    for (let r = start; r < end; r++) probability[r] /= sum
  }

  private sample(group: number): number {
    let row = this.world.tableStart[group]
    const lastRow = this.world.tableStart[group + 1] - 1
    let left = this.exploration.uniform()
    while (row < lastRow && left >= this.probability[row]) left -= this.probability[row++]
    return row
  }
}
