import { followedPolicy } from '../compare/followed'
import { compileEnvironment } from '../environment/compile'
import { readPolicy } from '../evaluate/policy-file'
import { kindOf, type Compiled, type EnvironmentDocument } from '../kinds/kinds'
import type { Checkpoint } from '../learn/checkpoint'
import type { Model, RowPolicy } from '../model/model'
import { refuse } from '../problem'

/** What a student hands in: a policy, in one of its forms. */
export type HandIn =
  /** By state, an action, or chances of actions. */
  | { readonly kind: 'policy'; readonly policy: Readonly<Record<string, string | Record<string, number>>> }
  /** The policy of a learned table: greedy in its action values, or the softmax of its preferences. */
  | { readonly kind: 'table'; readonly checkpoint: Checkpoint }
  /** A policy as rulebooks write it: `policy "mine": press when ring[1] > ring[2], left`. */
  | { readonly kind: 'rule'; readonly text: string }

export type HandInKind = HandIn['kind']

interface HandInEntry<H extends HandIn> {
  /** [rows] @throws ProblemError where it does not fit the environment */
  policy(handIn: H, compiled: Compiled, document: EnvironmentDocument): RowPolicy
}

/** Each kind of hand-in. */
export const HAND_INS: { readonly [K in HandInKind]: HandInEntry<Extract<HandIn, { kind: K }>> } = {
  policy: {
    policy: ({ policy }, { model }) => seenAlike(model, readPolicy(model, policy)),
  },
  table: {
    policy: ({ checkpoint }, compiled, { discount }) =>
      seenAlike(compiled.model, followedPolicy(compiled, { kind: 'table', checkpoint }, discount)),
  },
  rule: {
    policy: ({ text }, { model }, document) => seenAlike(model, rulePolicy(text, document)),
  },
}

/** The policy that was handed in, on an environment. [rows] @throws ProblemError where it does not fit */
export function policyOf(handIn: HandIn, compiled: Compiled, document: EnvironmentDocument): RowPolicy {
  const entry = HAND_INS[handIn.kind] as unknown as HandInEntry<HandIn>
  return entry.policy(handIn, compiled, document)
}

/** What a rule chooses: it is compiled with the rules of the environment. */
function rulePolicy(text: string, document: EnvironmentDocument): RowPolicy {
  const { withPolicy, text: textOf } = kindOf(document)
  if (!withPolicy)
    refuse(
      'the rule',
      'This environment is not written as rules.',
      'Hand in a policy, state by state, or a table.',
    )
  // A title that no policy has.
  let title = 'handed in'
  while (textOf(document).includes(title)) title += '+'
  const { policies } = compileEnvironment(withPolicy(document, title, text))
  return policies.find((each) => each.title === title)!.policy
}

/** @throws ProblemError for a policy that tells states apart which an agent cannot tell apart */
function seenAlike(model: Model, policy: RowPolicy): RowPolicy {
  const first = new Int32Array(model.observations).fill(-1)
  for (let s = 0; s < model.states; s++) {
    if (model.ending[s]) continue
    const seen = model.observation[s]
    if (first[seen] < 0) {
      first[seen] = s
      continue
    }
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const other = model.rowStart[first[seen]] + r - model.rowStart[s]
      if (Math.abs(policy[r] - policy[other]) > 1e-9)
        refuse(
          `policy, state "${model.labels[s]}"`,
          `An agent cannot tell it from "${model.labels[first[seen]]}", where the policy does something else.`,
          'Do the same in both of them.',
        )
    }
  }
  return policy
}
