import { learnMethod, type LearnMethodId } from '../learn/methods/methods'
import type { Head } from '../environment/head'
import type { LearnChoice } from './choice'
import { capFor, LEARN_DEFAULTS } from './settings'

/** The source of the policy that takes all actions equally often, which is followed unless another one is chosen. */
export const EQUIPROBABLE = 'equiprobable'

/** The settings that learning begins with in an environment. */
export function firstChoice(document: Pick<Head, 'learning' | 'discount' | 'cap'>): LearnChoice {
  return choiceIn(document, document.learning ?? {})
}

/** Settings of which a part is said, with what a run in the environment begins with for the others. */
export function choiceIn(
  { discount, cap }: Pick<Head, 'discount' | 'cap'>,
  said: Partial<LearnChoice>,
): LearnChoice {
  const method: LearnMethodId = said.method ?? 'q-learning'
  const { policy: _policy, ...defaults } = LEARN_DEFAULTS
  return {
    ...defaults,
    method,
    source: EQUIPROBABLE,
    discount,
    cap: capFor(cap),
    learningRate: learnMethod(method).defaultLearningRate,
    ...said,
  }
}
