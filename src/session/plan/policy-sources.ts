import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import { drawnPolicy } from '../../core/evaluate/drawn-policy'
import type { RowPolicy } from '../../core/model/model'
import type { LearnSession } from '../learn/learn-session'
import type { PolicySource } from './policy-source'

/** The sources there are for an environment, and what they are called. */
export function policySources(compiled: Compiled, learned: RowPolicy | null): Record<string, string> {
  return {
    equiprobable: 'uniform random policy',
    drawn: 'drawn by hand',
    ...Object.fromEntries(compiled.policies.map(({ title }) => [`written:${title}`, `written: ${title}`])),
    ...(learned ? { learned: 'learned in Learn' } : {}),
  }
}

/** The policy of a source; null where it is all actions equally often, or is not there any more. */
export function findPolicy(
  source: PolicySource,
  compiled: Compiled,
  document: EnvironmentDocument,
  learn: LearnSession,
): RowPolicy | null {
  if (source === 'drawn') return drawnPolicy(compiled.model, document.policy)
  if (source === 'learned') return learnedPolicy(compiled, learn)
  return compiled.policies.find(({ title }) => source === `written:${title}`)?.policy ?? null
}

/** What the run in Learn has come to, where it is one of this model. */
export function learnedPolicy({ model }: Compiled, learn: LearnSession): RowPolicy | null {
  const policy = learn.store.getState().frame?.policy
  return policy?.length === model.rows ? policy : null
}
