import type { Purpose } from '../../purpose'
import type { PseudoLine } from '../../explain/pseudo-code'
import type { MethodSetting } from '../../settings/settings'
import type { TableHolds } from '../learner'
import type { Schedule } from '../schedule'

/** A learning method, described once for the interface, the command line and the docs. What learns is in `learners.ts`. */
export interface LearnMethod {
  readonly title: string
  /** What it does, in one sentence. */
  readonly idea: string
  readonly source: string
  /** What the numbers of its table are. */
  readonly tableHolds: TableHolds
  /** Whether it learns values of states beside its preferences; they then stand on the board. */
  readonly critic?: boolean
  /** Whether it works from the model, so that the agent takes no steps. */
  readonly fromModel?: boolean
  /** Whether it plays candidates, and not the policy that it has found so far. */
  readonly playsCandidates?: boolean
  /** Whether it learns from rewards alone: then it may also explore by them. */
  readonly rewardsOnly?: boolean
  /** Whether it looks for the best policy, or for what a given one is worth. */
  readonly purpose: Purpose
  readonly defaultLearningRate: Schedule
  /** What can be set for it besides discount, episodes, cap, seed and stop rule. */
  readonly settings: readonly MethodSetting[]
  /** Lines are lit by `start`, `step` (something was learned from a step) and `episode` (from a whole one). */
  readonly pseudo: readonly PseudoLine[]
}

export const CONTROL = ['learningRate', 'exploration', 'ties', 'start'] as const
export const GRADIENT = ['learningRate', 'start', 'temperature', 'stepRule', 'normLimit', 'entropy'] as const
export const CHOOSE = 'a ← an action for s, best by Q, exploring now and then'
export const ENDED = 'until s is an ending or the step limit is reached'
