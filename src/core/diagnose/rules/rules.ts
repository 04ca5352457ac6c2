import type { DiagnosisRule } from '../rule'
import type { DiagnosisRuleId } from '../rule-ids'
import {
  explorationTooShort,
  exploringCosts,
  moreEpisodes,
  neverReached,
  noExploration,
  offTheWay,
  onPolicyCaution,
} from './exploring'
import {
  bonusThatBends,
  capTooShort,
  circleThatPays,
  clampedActions,
  discountTooLow,
  environmentFindings,
  lookAlikes,
  unreachable,
} from './structure'
import { firstOfTies, optimisticStart, pessimisticStart } from './start-values'
import {
  collapsedPolicy,
  diverged,
  diverging,
  maximisationBias,
  rateFallsTooFast,
  rateTooHigh,
  rateTooLow,
} from './values'

/** What is told of all runs together, and of what is left over, and what that looks at: not rules that look at one run. */
export const SUMMARIES = {
  luck: 'this run among runs with other seeds',
  unexplained: 'whether any change helped',
  fine: 'what the learned policy is worth, against the best one',
} as const satisfies Partial<Record<DiagnosisRuleId, string>>
export type SummaryRuleId = keyof typeof SUMMARIES

/** Every rule that looks at a run. */
const RULES: Readonly<Record<Exclude<DiagnosisRuleId, SummaryRuleId>, DiagnosisRule>> = {
  unreachable,
  diverged,
  diverging,
  cap: capTooShort,
  discount: discountTooLow,
  circle: circleThatPays,
  'look-alikes': lookAlikes,
  pessimistic: pessimisticStart,
  optimistic: optimisticStart,
  ties: firstOfTies,
  collapsed: collapsedPolicy,
  'rate-high': rateTooHigh,
  'rate-falls': rateFallsTooFast,
  'rate-low': rateTooLow,
  'exploration-none': noExploration,
  'exploration-short': explorationTooShort,
  maximisation: maximisationBias,
  bonus: bonusThatBends,
  'exploring-costs': exploringCosts,
  'on-policy': onPolicyCaution,
  'never-reached': neverReached,
  'off-the-way': offTheWay,
  'more-episodes': moreEpisodes,
  clamped: clampedActions,
  environment: environmentFindings,
}

export type RunRuleId = keyof typeof RULES
export const RUN_RULE_IDS = Object.keys(RULES) as RunRuleId[]

export function diagnosisRule(id: RunRuleId): DiagnosisRule {
  return RULES[id]
}
