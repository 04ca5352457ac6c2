/**
 * The stable names of what may be wrong with a run, the most particular first: of two that explain the same, that one is told
 * which stands before the other. What each of them is stands in `rules.ts`, which does not compile while one is missing.
 */
export const DIAGNOSIS_RULE_IDS = [
  'unreachable',
  'diverged',
  'diverging',
  'cap',
  'discount',
  'circle',
  'look-alikes',
  'pessimistic',
  'optimistic',
  'ties',
  'collapsed',
  'rate-high',
  'rate-falls',
  'rate-low',
  'exploration-none',
  'exploration-short',
  'maximisation',
  'bonus',
  'exploring-costs',
  'on-policy',
  'never-reached',
  'off-the-way',
  'more-episodes',
  'clamped',
  'environment',
  'luck',
  'unexplained',
  'fine',
] as const

export type DiagnosisRuleId = (typeof DIAGNOSIS_RULE_IDS)[number]
