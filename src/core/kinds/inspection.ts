import type { Model } from '../model/model'
import type { StoryStep } from '../problem'
import type { Happenings } from './happening'
import type { CompiledBase } from './kind'

/** What kinds look for by themselves while they make a model, or know of their documents, by stable names. */
export type KindRule =
  | 'check'
  | 'policy'
  | 'nothing-changes'
  | 'never-possible'
  | 'never-ends'
  | 'chance-not-read'
  | 'unreached'
  | 'start-ends'
  | 'reward-never'

/** Something that a kind found. */
export interface KindFinding {
  readonly rule: KindRule
  readonly where: string
  readonly cause: string
  readonly remedy: string
  readonly span?: { readonly from: number; readonly to: number }
  /** The shortest way to where it happens. */
  readonly path: readonly StoryStep[]
  /** The step in which it happens. */
  readonly breach?: StoryStep
  /** The actions or chances that it is about, by their names. */
  readonly about?: readonly string[]
  /** The cells that it is about, by their names: where there may be no state. */
  readonly cells?: readonly string[]
}

/** What a kind tells of its environments to who looks for faults. */
export interface KindInspection<D, C extends CompiledBase> {
  /** All the ways in which each step can go, worked out when they are asked for. */
  happenings(document: D, compiled: C): Happenings
  /** What is found by the kind itself. */
  findings(document: D, compiled: C): KindFinding[]
  /** Whether its states are made of variables that have a range, which a finished model never leaves. */
  readonly hasRanges: boolean
  /** How many checks of its own it writes down. */
  ownChecks(compiled: C): number
  /** What its chances are called, those that have names; see `Happening.drawn`. */
  chanceNames(document: D): string[]
  /** What parts of rewards are called, as `happenings` tells them: all that could occur. */
  rewardTitles(document: D, compiled: C): string[]
  /** How the number of states comes about, in words; empty where there is nothing to be said. */
  sizeStory(document: D, compiled: C): string
  /** The same model with its bonuses paying nothing; null where there are none. */
  withoutBonuses(document: D): Model | null
}
