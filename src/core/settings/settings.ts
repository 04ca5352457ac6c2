import type { RowPolicy } from '../model/model'
import { constant, type Schedule } from '../learn/schedule'

/** How an agent comes to try what does not look best. */
export const EXPLORATIONS = {
  'epsilon-greedy': {
    title: 'ε-greedy',
    level: 'Exploration',
    hint: 'With this chance a step is a random action, all equally likely; otherwise the best one.',
  },
  softmax: {
    title: 'softmax',
    level: 'Temperature',
    hint: 'Better actions are likelier, by e to the power of value / temperature: a small temperature is nearly greedy.',
  },
} as const
export type ExplorationWay = keyof typeof EXPLORATIONS

export interface Exploration {
  readonly way: ExplorationWay
  /** The chance of a random action, 0 to 1, or the temperature, above 0. */
  readonly level: Schedule
}

/** What the table holds before the first update; endings are always worth 0. */
export type StartTable =
  | { readonly kind: 'zero' }
  /** Optimistic, if it is more than can be had: then everything is tried by itself. */
  | { readonly kind: 'constant'; readonly value: number }
  /** Uniform between −spread and spread. */
  | { readonly kind: 'random'; readonly spread: number }

/** When a run is over before its last episode. */
export type StopRule =
  | { readonly kind: 'episodes' }
  /** As soon as the mean return of the last `over` episodes is at least this. */
  | { readonly kind: 'mean-return'; readonly atLeast: number; readonly over: number }
  | { readonly kind: 'steps'; readonly count: number }

/** What every learner needs to be told; a method uses the part that its entry in the registry names. */
export interface LearnSettings {
  /** 0 to 1 */
  readonly discount: number
  /** The step towards the target: above 0, for tables up to 1. */
  readonly learningRate: Schedule
  readonly exploration: Exploration
  readonly start: StartTable
  /** Which of several best actions is taken. */
  readonly ties: 'random' | 'first'
  readonly episodes: number
  /** Steps after which an episode is cut off, at least 1. */
  readonly cap: number
  readonly stop: StopRule
  readonly seed: number
  /** The number of this run among runs with the same seed, from 0. */
  readonly run: number
  /** n of n-step methods: rewards that are waited for, at least 1. */
  readonly lookahead: number
  /** λ: how much of a trace is left after a step, besides the discount; 0 to 1. */
  readonly lambda: number
  readonly traces: 'accumulating' | 'replacing'
  /** Which visits of an episode a Monte Carlo method counts. */
  readonly counted: 'first' | 'every'
  /** Updates from the learned model after each step. */
  readonly planning: number
  /** An error up to this is not worth planning for. */
  readonly threshold: number
  /** [model rows] the policy that a prediction method follows; null for all actions equally often. */
  readonly policy: RowPolicy | null
}

export const LEARN_DEFAULTS = {
  learningRate: constant(0.1),
  exploration: { way: 'epsilon-greedy', level: constant(0.1) },
  start: { kind: 'zero' },
  ties: 'random',
  episodes: 2000,
  stop: { kind: 'episodes' },
  seed: 1,
  run: 0,
  lookahead: 4,
  lambda: 0.8,
  traces: 'replacing',
  counted: 'first',
  planning: 10,
  threshold: 0.001,
  policy: null,
} as const satisfies Omit<LearnSettings, 'discount' | 'cap'>

/** The cap a run gets when neither the person nor the environment names one: learning needs some. */
export function capFor(environmentCap: number): number {
  return environmentCap || 1000
}
