import { countBonus } from './count-bonus'
import { epsilonGreedy } from './epsilon-greedy'
import type { ExplorationKind } from './exploration'
import { exploreThenCommit } from './explore-then-commit'
import { posteriorBernoulli } from './posterior-bernoulli'
import { posteriorGaussian } from './posterior-gaussian'
import { softmax } from './softmax'
import { ucbTuned } from './ucb-tuned'
import { ucb1 } from './ucb1'

/** Every way of exploring, once. */
export const EXPLORATIONS = {
  'epsilon-greedy': epsilonGreedy,
  softmax,
  ucb1,
  'ucb1-tuned': ucbTuned,
  'count-bonus': countBonus,
  'explore-then-commit': exploreThenCommit,
  'posterior-bernoulli': posteriorBernoulli,
  'posterior-gaussian': posteriorGaussian,
} as const satisfies Readonly<Record<string, ExplorationKind>>

export type ExplorationWay = keyof typeof EXPLORATIONS
export const EXPLORATION_WAYS = Object.keys(EXPLORATIONS) as ExplorationWay[]
