import type { Learner } from '../learner'
import type { LearnMethod } from './method'
import { valueMethods } from './value/described'
import { traceMethods } from './traces/described'
import { monteCarloMethods } from './monte-carlo/described'
import { modelMethods } from './model/described'
import { predictionMethods } from './prediction/described'
import { policyMethods } from './policy/described'

/** Every method of learning, once, by family; what learns by each is in `learners.ts`. */
export const LEARN_METHODS = {
  ...valueMethods,
  ...traceMethods,
  ...monteCarloMethods,
  ...modelMethods,
  ...predictionMethods,
  ...policyMethods,
} as const satisfies Record<string, LearnMethod>

export type LearnMethodId = keyof typeof LEARN_METHODS
export const LEARN_METHOD_IDS = Object.keys(LEARN_METHODS) as LearnMethodId[]

export function learnMethod(id: LearnMethodId): LearnMethod {
  return LEARN_METHODS[id]
}

/** Which line of the pseudo-code is at hand. */
export function pseudoPlaceOf(method: LearnMethod, learner: Learner): string {
  if (learner.steps === 0) return 'start'
  const whole = method.pseudo.some(({ at }) => at === 'episode')
  return whole && learner.last.ended !== 'no' ? 'episode' : 'step'
}
