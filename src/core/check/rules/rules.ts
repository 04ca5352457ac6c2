import {
  carriedOut,
  deterministic,
  idleAction,
  impossiblePolicy,
  neverPossible,
  sameActions,
} from './actions'
import { bounds, compiles, noAction, probabilities } from './compiles'
import { certainEnding, episodeLength, noEndings, stepLimit, trap } from './endings'
import {
  brokenCheck,
  chanceNotRead,
  nothingChanges,
  silentPolicy,
  startsAsEnding,
  unreachedEnding,
} from './own'
import { loopsFact, returnsFact, rewardLoop, rewardNever, rewardsFact } from './rewards'
import type { CheckRule } from './rule'
import { lookAlikes, sizeFact, unreached } from './states'

/** Everything that is looked for, once, by its stable name. docs/checks.md says of each what it proves. */
export const CHECK_RULES = {
  compiles,
  bounds,
  probabilities,
  'no-action': noAction,
  check: brokenCheck,
  trap,
  'impossible-policy': impossiblePolicy,
  'never-possible': neverPossible,
  'idle-action': idleAction,
  'same-actions': sameActions,
  unreached,
  'never-ends': unreachedEnding,
  'start-ends': startsAsEnding,
  'step-limit': stepLimit,
  policy: silentPolicy,
  'nothing-changes': nothingChanges,
  'chance-not-read': chanceNotRead,
  'reward-never': rewardNever,
  'look-alikes': lookAlikes,
  'reward-loop': rewardLoop,
  size: sizeFact,
  chance: deterministic,
  'carried-out': carriedOut,
  rewards: rewardsFact,
  returns: returnsFact,
  length: episodeLength,
  'no-endings': noEndings,
  'certain-ending': certainEnding,
  loops: loopsFact,
} as const satisfies Readonly<Record<string, CheckRule>>

export type CheckRuleId = keyof typeof CHECK_RULES

export const CHECK_RULE_IDS = Object.keys(CHECK_RULES) as CheckRuleId[]

/** A rule for those who do not know which it is. */
export function checkRule(id: CheckRuleId): CheckRule {
  return CHECK_RULES[id]
}
