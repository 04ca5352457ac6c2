import { startValue, type Model, type RowPolicy } from '../model/model'
import type { Measure } from '../model/space'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { solveOptimum } from '../plan/solve'

/** What a policy gets from the start, exactly. */
export interface Score {
  readonly title: string
  /** Whether this is the best there is. */
  readonly optimal: boolean
  /** Null when it has no finite value. */
  readonly value: number | null
  /** [measures] over an episode, undiscounted where the policy always ends, else discounted; null when neither */
  readonly measures: readonly (number | null)[]
}

/** The exact value of the optimal policy, the uniform random one and some others, with what they measure on the way. */
export function scorePolicies(
  model: Model,
  policies: readonly { readonly title: string; readonly policy: RowPolicy }[],
  measures: readonly Measure[],
  discount: number,
): Score[] {
  const optimum = solveOptimum(model, discount)
  const scores = [{ title: 'uniform random policy', policy: randomPolicy(model) }, ...policies].map(
    ({ title, policy }) => ({ title, optimal: false, ...scoreOf(model, policy, measures, discount) }),
  )
  const best = optimum
    ? scoreOf(model, optimum.ties, measures, discount)
    : { value: null, measures: measures.map(() => null) }
  return [...scores, { title: 'optimal policy', optimal: true, ...best }]
}

function scoreOf(
  model: Model,
  policy: RowPolicy,
  measures: readonly Measure[],
  discount: number,
): Pick<Score, 'value' | 'measures'> {
  const total = (of: Model, at: number) => {
    const result = evaluatePolicy(of, policy, at)
    return result.outcome === 'solved' ? startValue(of, result.values) : null
  }
  return {
    value: total(model, discount),
    measures: measures.map(({ perRow }) => {
      const counted = { ...model, outcomeReward: spread(model, perRow) }
      return total(counted, 1) ?? (discount < 1 ? total(counted, discount) : null)
    }),
  }
}

/** A number a row as a reward of each of its outcomes. */
function spread(model: Model, perRow: Float64Array): Float64Array {
  const rewards = new Float64Array(model.outcomes)
  for (let r = 0; r < model.rows; r++)
    rewards.fill(perRow[r], model.outcomeStart[r], model.outcomeStart[r + 1])
  return rewards
}
