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
import {
  collapsedPolicy,
  diverged,
  firstOfTies,
  maximisationBias,
  optimisticStart,
  pessimisticStart,
  rateFallsTooFast,
  rateTooHigh,
  rateTooLow,
} from './values'

/** What is told of all runs together, and of what is left over: not by a rule that looks at one run. */
export type SummaryRuleId = 'luck' | 'unexplained' | 'fine'

/** Every rule that looks at a run. */
const RULES: Readonly<Record<Exclude<DiagnosisRuleId, SummaryRuleId>, DiagnosisRule>> = {
  unreachable,
  diverged,
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
