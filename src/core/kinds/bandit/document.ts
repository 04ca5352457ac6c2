import type { PayOff } from './pay-off'

export interface Arm {
  readonly name: string
  /** What a pull pays: one entry for each context, or a single one that holds in all. */
  readonly pays: readonly PayOff[]
}

/** How pay-offs change while an episode goes on; the agent does not see the number of the pull. */
export type Drift =
  | { readonly type: 'none' }
  /** Every arm's mean takes a Gaussian step before each pull after the first, drawn once from the seed. */
  | { readonly type: 'walk'; readonly step: number; readonly seed: number }
  /** Every so many pulls each arm takes over what the arm before it paid, the first what the last paid. */
  | { readonly type: 'switch'; readonly every: number }

/** The bandit part of an environment document. */
export interface Bandit {
  readonly arms: readonly Arm[]
  /** What the agent sees before a pull, drawn anew each time by weight; a single one when empty. */
  readonly contexts: readonly { readonly name: string; readonly weight: number }[]
  /** Pulls in an episode. */
  readonly pulls: number
  readonly drift: Drift
  /**
   * The mean of every pay-off is drawn anew for each run, normal around what is written with this deviation: every run meets
   * a problem of its own. Left out, or 0, where all runs meet what is written.
   */
  readonly anew?: number
  /** The class sees no pay-offs and nothing computed from them. */
  readonly hidden: boolean
}

export const ARM_LIMIT = 100
export const CONTEXT_LIMIT = 20
export const PULL_LIMIT = 10_000
