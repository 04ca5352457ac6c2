import { epsilonGreedy } from './epsilon-greedy'
import type { ExplorationKind } from './exploration'
import { softmax } from './softmax'

/** Every way of exploring, once. */
export const EXPLORATIONS = {
  'epsilon-greedy': epsilonGreedy,
  softmax,
} as const satisfies Readonly<Record<string, ExplorationKind>>

export type ExplorationWay = keyof typeof EXPLORATIONS
export const EXPLORATION_WAYS = Object.keys(EXPLORATIONS) as ExplorationWay[]
