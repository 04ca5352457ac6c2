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
import { expected } from './expected'
import { idleChance } from './chances'
import { loopsFact, returnsFact, rewardLoop, rewardNever, rewardsFact } from './rewards'
import type { CheckRuleId } from '../rule-ids'
import type { CheckRule } from './rule'
import { lookAlikes, sizeFact, unreached } from './states'

/** Everything that is looked for, once. */
export const CHECK_RULES = {
  compiles,
  bounds,
  probabilities,
  'no-action': noAction,
  check: brokenCheck,
  expected,
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
  'idle-chance': idleChance,
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
} as const satisfies Readonly<Record<CheckRuleId, CheckRule>>

/** A rule for those who do not know which it is. */
export function checkRule(id: CheckRuleId): CheckRule {
  return CHECK_RULES[id]
}
