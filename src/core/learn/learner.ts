import type { Working } from '../explain/working'
import type { EpisodeLog } from './episode-log'
import type { LearnSettings } from '../settings/settings'
import type { World } from './world'

/**
 * What is kept of a run besides its tables, its log, its last step and its streams: nothing; how often each row was taken as
 * well; or also what each update was made of, so that it can be explained. The less, the faster; nothing of it changes what
 * is learned.
 */
export const KEEPINGS = ['results', 'visits', 'workings'] as const
export type Keeping = (typeof KEEPINGS)[number]

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

/** What a table holds a number for, and what the number is. */
export type TableHolds = 'action values' | 'preferences' | 'values'

/** A table of a learner. */
export interface LearnTable {
  readonly holds: TableHolds
  /** [tableRows], or [observations] where it holds values */
  readonly numbers: Float64Array
}

/** An update of preferences as it was made, for a table of the episode. */
export interface UpdateNote {
  /** The step of the episode that it learns from, from 0. */
  readonly time: number
  readonly observation: number
  /** The table row of the action taken. */
  readonly row: number
  /** What the action turned out to be worth: a return, or what an actor-critic puts in its place. */
  readonly worth: number
  /** What that is compared with. */
  readonly baseline: number
  /** worth − baseline */
  readonly advantage: number
  /** Of the step in the gradient of the value at the start. */
  readonly weight: number
  readonly rate: number
}

/** Why a run is over, or that it is not. */
export type LearnStatus =
  | { readonly outcome: 'learning' }
  | { readonly outcome: 'done' }
  /** A stop rule was met. */
  | { readonly outcome: 'stopped'; readonly reason: string }
  /** A number of the table diverged; it was not written. */
  | { readonly outcome: 'diverged'; readonly reason: string }

/** Cells of the table that the last step wrote, in that order, with what was there before. */
export interface Changes {
  readonly cells: Int32Array
  readonly before: Float64Array
  /** How many entries hold; more may have been written than fit. */
  count: number
}

/** A learner at a moment, to go on from: numbers and copies of arrays by name. */
export interface LearnSnapshot {
  readonly numbers: Readonly<Record<string, number>>
  readonly arrays: Readonly<Record<string, Float64Array | Int32Array>>
  /** Whether the run goes on from there. */
  readonly status: LearnStatus
}

/** An agent in the middle of its run. Nothing in it knows the model but its `world`. */
export interface Learner {
  readonly world: World
  readonly settings: LearnSettings
  readonly log: EpisodeLog
  readonly last: Readonly<LastStep>
  readonly status: LearnStatus
  /** Steps taken in all. */
  readonly steps: number
  /** Where the agent stands; -1 between episodes. */
  readonly state: number
  /** Steps taken in this episode. */
  readonly age: number
  /** Exploration, or temperature, and learning rate as they are now. */
  readonly level: number
  readonly rate: number
  /** [tableRows] action values or preferences, or [observations] values: what it acts by, or evaluates */
  readonly table: Float64Array
  /** All its tables by name, that one first. */
  tables(): Readonly<Record<string, LearnTable>>
  /**
   * [states] what each state is worth by what was learned: 0 for endings; null where only the exact value of the policy
   * could tell, as preferences do not.
   * @param table  as the table was at another moment
   */
  stateValues(table?: Float64Array): Float64Array | null
  /** [tableRows] how often each row was taken, where the run keeps visits */
  readonly visits: Float64Array
  readonly changes: Changes
  /** [cells of the table] eligibility; null for methods without traces */
  readonly eligibility: Float64Array | null
  /**
   * Takes up to `limit` steps without allocating, and no more once `episodes` are finished.
   * @returns the steps taken; fewer than asked only when the run is over or the episodes are
   */
  advance(limit: number, episodes?: number): number
  /** [tableRows] the probabilities with which the learned policy picks each row: greedy, or the softmax itself. */
  policy(): Float64Array
  /**
   * [tableRows] the probabilities with which the agent acts now, exploring included.
   * @param only  the observation that is asked about; then the others are left at 0
   */
  behaviour(only?: number): Float64Array
  /** Why the next choice at an observation will be what it is; undefined where there is nothing to say. */
  choice(observation: number): Working | undefined
  /** [tableRows] how good each row may still be, for agents that act by that: infinity for what was never tried; else null */
  bounds(): Float64Array | null
  /** [observations] what returns are compared with, or the critic's values, now; null where there is no such thing */
  baseline(): Float64Array | null
  /** The arithmetic of the last update at an observation; undefined when there was none, or the run does not keep it. */
  working(observation: number): Working | undefined
  /** Begins with this table, [cells of the table], where it has numbers; before the first step only. */
  begin(table: Float64Array): void
  /** Updates are noted here, when there is a list; for methods that have something to tell of them. */
  notes: UpdateNote[] | null
  snapshot(): LearnSnapshot
  restore(snapshot: LearnSnapshot): void
}
