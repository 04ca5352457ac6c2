/**
 * The stable names of everything that is looked for, in the order in which it is told. What each of them is stands in
 * `CHECK_RULES`, which does not compile while one is missing; docs/checks.md says what it proves.
 */
export const CHECK_RULE_IDS = [
  'compiles',
  'bounds',
  'probabilities',
  'no-action',
  'check',
  'expected',
  'trap',
  'impossible-policy',
  'never-possible',
  'idle-action',
  'same-actions',
  'unreached',
  'never-ends',
  'start-ends',
  'step-limit',
  'policy',
  'nothing-changes',
  'chance-not-read',
  'idle-chance',
  'reward-never',
  'look-alikes',
  'reward-loop',
  'size',
  'chance',
  'carried-out',
  'rewards',
  'returns',
  'length',
  'no-endings',
  'certain-ending',
  'loops',
] as const

export type CheckRuleId = (typeof CHECK_RULE_IDS)[number]

/** Those that an author can expect something of. */
export const EXPECTABLE_RULE_IDS = CHECK_RULE_IDS.filter((id) => id !== 'expected')

export function isRuleId(id: string): id is CheckRuleId {
  return (CHECK_RULE_IDS as readonly string[]).includes(id)
}
