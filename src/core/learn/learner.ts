import type { Working } from '../explain/working'
import type { EpisodeLog } from './episode-log'
import type { World } from './world'

/** What every learner needs to be told. */
export interface LearnSettings {
  /** 0 to 1 */
  readonly discount: number
  /** The step towards the target; above 0, for tables up to 1. */
  readonly learningRate: number
  /** The chance of a random action, 0 to 1; used by learners that explore that way. */
  readonly exploration: number
  readonly episodes: number
  /** Steps after which an episode is cut off, at least 1. */
  readonly cap: number
  readonly seed: number
  /** The number of this run among runs with the same seed, from 0. */
  readonly run: number
}

/** The last step an agent took, for readouts; plain numbers that are overwritten. */
export interface LastStep {
  state: number
  /** Table row of the action taken, -1 before the first step. */
  row: number
  reward: number
  next: number
  explored: boolean
  ended: 'no' | 'ending' | 'cap'
}

/** An agent in the middle of its run. Nothing in it knows the model but its `world`. */
export interface Learner {
  readonly world: World
  readonly settings: LearnSettings
  readonly log: EpisodeLog
  readonly last: Readonly<LastStep>
  /** Steps taken in all. */
  readonly steps: number
  /** Where the agent stands; -1 between episodes. */
  readonly state: number
  /** Steps taken in this episode. */
  readonly age: number
  /** [tableRows] action values or preferences */
  readonly table: Float64Array
  /** [tableRows] how often each row was taken */
  readonly visits: Float64Array
  /**
   * Takes up to `limit` steps without allocating; with `untilEpisodeEnds`, stops after an episode's last step.
   * @returns the steps taken; fewer than asked only when all episodes are done or one ended
   */
  advance(limit: number, untilEpisodeEnds?: boolean): number
  /** [tableRows] the probabilities with which the learned policy picks each row: greedy, or the softmax itself. */
  policy(): Float64Array
  /** The arithmetic of the last update at an observation; undefined when there was none. */
  working(observation: number): Working | undefined
}

export function isDone(learner: Learner): boolean {
  return learner.log.count >= learner.settings.episodes
}
