import type { World } from '../learn/world'
import type { Model, RowPolicy } from '../model/model'
import type { Measure } from '../model/space'
import { RandomStream } from '../random/generator'

/** How trials are played: without learning, every episode with chance of its own, so that any can be played again alone. */
export interface TrialSettings {
  readonly episodes: number
  readonly seed: number
  readonly cap: number
  readonly discount: number
}

/** One episode, step by step. */
export interface TrialEpisode {
  /** [steps + 1] from the start to where it was left */
  readonly states: Int32Array
  /** [steps] rows of the model */
  readonly rows: Int32Array
  readonly rewards: Float64Array
  /** Whether it ended by itself; else the cap cut it off. */
  readonly ended: boolean
}

/** What a number of trials came to. */
export interface Trials {
  /** [episodes] discounted returns, and steps (negative where the cap cut the episode off) */
  readonly returns: Float64Array
  readonly lengths: Int32Array
  readonly mean: number
  /** Standard deviation of the returns over the episodes. */
  readonly spread: number
  readonly meanLength: number
  /** The share of episodes that were successes, see `isSuccess`. */
  readonly success: number
  /** The share that ended by themselves. */
  readonly ended: number
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
  const { episodes, discount } = settings
  const returns = new Float64Array(episodes)
  const lengths = new Int32Array(episodes)
  const totals = measures.map(() => 0)
  const paying = endingsThatPay(world.model)
  let ended = 0
  let success = 0
  let steps = 0
  // Running mean and sum of squares (Welford 1962).
  let mean = 0
  let squares = 0
  for (let k = 0; k < episodes; k++) {
    const episode = playTrial(world, policy, settings, k)
    const { rows, rewards } = episode
    let gain = 0
    for (let t = rewards.length - 1; t >= 0; t--) gain = rewards[t] + discount * gain
    returns[k] = gain
    lengths[k] = episode.ended ? rows.length : -rows.length
    steps += rows.length
    if (episode.ended) ended++
    if (isSuccess(episode, paying)) success++
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
    mean,
    spread: episodes > 1 ? Math.sqrt(squares / (episodes - 1)) : 0,
    meanLength: steps / episodes,
    success: success / episodes,
    ended: ended / episodes,
    measures: totals.map((total) => total / episodes),
  }
}

/** Plays episode `k` of the trials. */
export function playTrial(
  world: World,
  policy: RowPolicy,
  { seed, cap }: TrialSettings,
  k: number,
): TrialEpisode {
  const { rowStart } = world.model
  const environment = new RandomStream(seed, 'environment', k)
  const choices = new RandomStream(seed, 'exploration', k)
  const states: number[] = [world.begin(environment)]
  const rows: number[] = []
  const rewards: number[] = []
  let state = states[0]
  while (rows.length < cap && !world.ending[state]) {
    let row = rowStart[state]
    const lastRow = rowStart[state + 1] - 1
    for (let left = choices.uniform(); row < lastRow && left >= policy[row]; row++) left -= policy[row]
    world.step(state, row - rowStart[state], environment)
    rows.push(row)
    rewards.push(world.reward)
    states.push((state = world.next))
  }
  return {
    states: Int32Array.from(states),
    rows: Int32Array.from(rows),
    rewards: Float64Array.from(rewards),
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
 * A success is an episode that ended by itself and, where some endings pay more than nothing, with a last reward that
 * did: a robot that rolls down the stairs has ended too.
 */
function isSuccess({ ended, rewards }: TrialEpisode, paying: boolean): boolean {
  return ended && (!paying || rewards[rewards.length - 1] > 0)
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
