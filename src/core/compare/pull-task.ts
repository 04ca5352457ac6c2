import type { EnvironmentDocument } from '../kinds/kinds'
import type { LearnMethodId } from '../learn/methods/methods'
import type { LearnSettings } from '../settings/settings'
import type { PullSums } from './pull-sums'

/** A document of a bandit. */
export type BanditDocument = Extract<EnvironmentDocument, { kind: 'bandit' }>

/** An agent that is to play many runs of a bandit. */
export interface PullTask {
  readonly document: BanditDocument
  readonly method: LearnMethodId
  /** Of all runs but their numbers; its episodes and stop rule do not count. */
  readonly settings: LearnSettings
  /** Pulls of a run. */
  readonly pulls: number
}

/** Plays whole runs, as often as asked. */
export interface PullPlayer {
  /** Adds a run to the sums. */
  play(run: number): void
  /** What was played since the last time this was asked. */
  take(): PullSums
}

/** How many episodes so many pulls are. */
export function episodesOf({ document, settings, pulls }: PullTask): number {
  return Math.ceil(pulls / Math.min(document.bandit.pulls, settings.cap))
}
