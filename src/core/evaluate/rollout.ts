import { formatCount, significantNumber } from '../formats/number'
import type { World } from '../learn/world'
import type { Model, RowPolicy } from '../model/model'
import type { Measure } from '../model/space'
import { lastingComponents } from '../plan/end-components'
import { RandomStream } from '../random/generator'

/** How trials are played: without learning, every episode with chance of its own, so that any can be played again alone. */
export interface TrialSettings {
  readonly episodes: number
  readonly seed: number
  readonly cap: number
  readonly discount: number
  /** The number of the first episode; 0 unless said otherwise. */
  readonly first?: number
}

/** One episode, step by step. */
export interface TrialEpisode {
  /** [steps + 1] from the start to where it was left */
  readonly states: Int32Array
  /** [steps] rows of the model */
  readonly rows: Int32Array
  readonly rewards: Float64Array
  /** [steps] what comes after each step counts times this, the discount included */
  readonly discounts: Float64Array
  /** Whether it ended by itself; else the cap cut it off. */
  readonly ended: boolean
}

/** What a number of trials came to. */
export interface Trials {
  /** [episodes] discounted returns, and steps (negative where the cap cut the episode off) */
  readonly returns: Float64Array
  readonly lengths: Int32Array
  /** [episodes] the state in which each was left: an ending, or where the cap cut it off */
  readonly lasts: Int32Array
  readonly mean: number
  /** Standard error of that mean; null for a single episode. */
  readonly standardError: number | null
  /** Standard deviation of the returns over the episodes; null for a single one. */
  readonly spread: number | null
  readonly meanLength: number
  /** The share of episodes that were successes, see `successOf`; null where nothing can fail or succeed. */
  readonly success: number | null
  /** The share that ended by themselves. */
  readonly ended: number
  /** Steps in all. */
  readonly steps: number
  /** Episodes that the cap cut off. */
  readonly cutOff: number
  /**
   * By how much the mean can be off at the most because the cap took rewards away that were to come: 0 where it took
   * none, null where that cannot be told, undiscounted.
   */
  readonly remainder: number | null
  /** [states] mean discounted return after the first visit of an episode; NaN where none counts, see `VisitMeans` */
  readonly values: Float64Array
  /** [measures] mean total of an episode */
  readonly measures: readonly number[]
}

/**
 * Plays episodes with a policy over the model's rows. Episode k draws from streams of its own, so that different
 * policies meet the same chance as far as they act alike, and one episode is enough to play it again.
 */
export function playTrials(
  world: World,
  policy: RowPolicy,
  settings: TrialSettings,
  measures: readonly Measure[] = [],
): Trials {
  const { episodes, first = 0 } = settings
  const returns = new Float64Array(episodes)
  const lengths = new Int32Array(episodes)
  const lasts = new Int32Array(episodes)
  const totals = measures.map(() => 0)
  const succeeds = successOf(world.model)
  const visits = new VisitMeans(world, settings)
  let ended = 0
  let success = 0
  let steps = 0
  // Running mean and sum of squares (Welford 1962).
  let mean = 0
  let squares = 0
  for (let k = 0; k < episodes; k++) {
    const episode = playTrial(world, policy, settings, first + k)
    const { rows } = episode
    const gain = visits.add(episode)
    returns[k] = gain
    lengths[k] = episode.ended ? rows.length : -rows.length
    lasts[k] = episode.states[rows.length]
    steps += rows.length
    if (episode.ended) ended++
    if (succeeds?.(episode)) success++
    measures.forEach(({ perRow }, m) => {
      for (const row of rows) totals[m] += perRow[row]
    })
    const off = gain - mean
    mean += off / (k + 1)
    squares += off * (gain - mean)
  }
  return {
    returns,
    lengths,
    lasts,
    mean,
    standardError: episodes > 1 ? Math.sqrt(squares / (episodes - 1) / episodes) : null,
    spread: episodes > 1 ? Math.sqrt(squares / (episodes - 1)) : null,
    meanLength: steps / episodes,
    success: succeeds ? success / episodes : null,
    ended: ended / episodes,
    steps,
    cutOff: episodes - ended,
    remainder: visits.remainder,
    values: visits.means(),
    measures: totals.map((total) => total / episodes),
  }
}

/** What the cap did to the mean return, for people; undefined where it cut nothing off. */
export function cutOffSentence(
  { cutOff, returns, remainder }: Pick<Trials, 'cutOff' | 'returns' | 'remainder'>,
  cap: number,
): string | undefined {
  if (cutOff === 0) return undefined
  const missing =
    remainder === null
      ? 'undiscounted, nothing bounds them'
      : `with them the mean return could be up to ${significantNumber(remainder)} higher or lower`
  return `${formatCount(cutOff)} of ${formatCount(returns.length)} episodes were cut off after ${formatCount(cap)} steps: rewards that were still to come are missing; ${missing}.`
}

/** Plays episode `k` of the trials. */
export function playTrial(
  world: World,
  policy: RowPolicy,
  { seed, cap, discount }: TrialSettings,
  k: number,
): TrialEpisode {
  const { rowStart } = world.model
  const environment = new RandomStream(seed, 'environment', k)
  const choices = new RandomStream(seed, 'exploration', k)
  const states: number[] = [world.begin(environment)]
  const rows: number[] = []
  const rewards: number[] = []
  const discounts: number[] = []
  let state = states[0]
  while (rows.length < cap && !world.ending[state]) {
    let row = rowStart[state]
    const lastRow = rowStart[state + 1] - 1
    for (let left = choices.uniform(); row < lastRow && left >= policy[row]; row++) left -= policy[row]
    world.step(state, row - rowStart[state], environment)
    rows.push(row)
    rewards.push(world.reward)
    discounts.push(discount * world.carried)
    states.push((state = world.next))
  }
  return {
    states: Int32Array.from(states),
    rows: Int32Array.from(rows),
    rewards: Float64Array.from(rewards),
    discounts: Float64Array.from(discounts),
    ended: world.ending[state] === 1,
  }
}

/** Whether any step into an ending pays more than nothing. */
export function endingsThatPay({ rows, outcomeStart, outcomeState, outcomeReward, ending }: Model): boolean {
  for (let o = 0; o < outcomeStart[rows]; o++)
    if (ending[outcomeState[o]] === 1 && outcomeReward[o] > 0) return true
  return false
}

/**
 * What counts as a success: an episode that ended by itself and, where some endings pay more than nothing, with a last
 * reward that did: a robot that rolls down the stairs has ended too.
 * @returns null where nothing can fail: there is no ending, or every episode comes to the same one, as pulling an arm does
 */
export function successOf(model: Model): ((episode: TrialEpisode) => boolean) | null {
  const endings = model.ending.reduce((sum, ending) => sum + ending, 0)
  if (endings === 0 || (endings === 1 && lastingComponents(model).components.length === 0)) return null
  const paying = endingsThatPay(model)
  return ({ ended, rewards }) => ended && (!paying || rewards[rewards.length - 1] > 0)
}

/** What is left of the discount where rewards that a cap took away no longer matter to the value of a state. */
const NEGLIGIBLE = 1e-3
/** A state counts although so much of its visits had to be left out. */
const LEFT_OUT = 0.01

/**
 * Means of the returns after the first visit of each state in an episode (first-visit Monte Carlo prediction).
 *
 * A cap takes rewards away that were to come, and nothing stands in for them here. Discounted far enough, only visits
 * count after which the cap left enough steps for the rest not to matter: when a visit comes says nothing of what
 * follows, so that their mean is not biased. Otherwise visits whose episode was cut off are left out, and a state that
 * lost more than one in a hundred has no mean.
 */
class VisitMeans {
  /** By how much the mean return can be off. */
  remainder: number | null = 0
  private readonly total: Float64Array
  private readonly count: Float64Array
  private readonly leftOut: Float64Array
  private readonly firstSeen: Int32Array
  /** Steps that must be left after a visit; 0 when episodes that were cut off are left out instead. */
  private readonly margin: number
  /** The most that can come after a step, in size. */
  private readonly most: number

  constructor(
    private readonly world: World,
    private readonly settings: TrialSettings,
  ) {
    const { states } = world.model
    const { discount, cap } = settings
    this.total = new Float64Array(states)
    this.count = new Float64Array(states)
    this.leftOut = new Float64Array(states)
    this.firstSeen = new Int32Array(states).fill(-1)
    const steps =
      discount === 0 ? 1 : discount < 1 ? Math.ceil(Math.log(NEGLIGIBLE) / Math.log(discount)) : Infinity
    this.margin = steps < cap ? steps : 0
    this.most = world.rewardLimit / (1 - discount)
  }

  /** @returns the return of the episode */
  add({ states, rewards, discounts, ended }: TrialEpisode): number {
    const { total, count, leftOut, firstSeen, margin, settings } = this
    const length = rewards.length
    let gain = 0
    let left = 1
    // Backwards, so that the first visit is the one that stands.
    for (let t = length - 1; t >= 0; t--) {
      gain = rewards[t] + discounts[t] * gain
      left *= discounts[t]
      firstSeen[states[t]] = t
    }
    if (!ended) {
      const lost = this.world.rewardLimit === 0 ? 0 : left * this.most
      this.remainder =
        this.remainder === null || !Number.isFinite(lost) ? null : this.remainder + lost / settings.episodes
    }
    let after = 0
    for (let t = length - 1; t >= 0; t--) {
      after = rewards[t] + discounts[t] * after
      const s = states[t]
      if (firstSeen[s] !== t) continue
      if (margin > 0 ? t + margin > settings.cap : !ended) {
        leftOut[s]++
        continue
      }
      total[s] += after
      count[s]++
    }
    for (let t = 0; t < length; t++) firstSeen[states[t]] = -1
    return gain
  }

  means(): Float64Array {
    return this.total.map((sum, s) =>
      this.margin === 0 && this.leftOut[s] > LEFT_OUT * (this.leftOut[s] + this.count[s])
        ? NaN
        : sum / this.count[s],
    )
  }
}

/** A policy that takes the likeliest action of each state; several that are as likely share. */
export function likeliest({ states, rowStart }: Model, policy: RowPolicy): RowPolicy {
  const sharp = new Float64Array(policy.length)
  for (let s = 0; s < states; s++) {
    let most = 0
    let count = 0
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
      if (policy[r] > most + 1e-12) {
        most = policy[r]
        count = 1
      } else if (policy[r] >= most - 1e-12) count++
    }
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (policy[r] >= most - 1e-12) sharp[r] = 1 / count
  }
  return sharp
}
