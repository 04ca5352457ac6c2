import type { Model, RowPolicy } from '../model/model'
import { chainOf, preciseResidual, type Chain } from './chain'
import { endlessUnder } from './reach'
import { StateReduction } from './state-reduction'

/** What became of an exact evaluation. */
export interface Evaluation {
  /**
   * - `solved`: every value is known but those of `endless`;
   * - `never-ends`: so it is, but an episode may start in a state of `endless`, so that there is no value of the start;
   * - `too-large`: asked for a direct solution, which would take too much memory or time;
   * - `budget-spent`: the values are not exact enough.
   */
  readonly outcome: 'solved' | 'never-ends' | 'too-large' | 'budget-spent'
  /** [states] NaN in those of `endless` */
  readonly values: Float64Array
  /** About how far a value may be off. */
  readonly bound: number
  /**
   * At discount 1, states without a finite value: under the policy they may come to where no ending can be reached any
   * more. In the order of the model.
   */
  readonly endless: Int32Array
}

/** Up to so many states a direct solution is made at once: it takes some milliseconds. */
export const SMALL_CHAIN = 300
/** Larger ones are swept first, for so many backups or sweeps, and solved directly when that is not enough. */
const FIRST_BACKUPS = 20_000_000
const FIRST_SWEEPS = 60
const SWEEP_LIMIT = 200_000
/** Sweeps are not good enough where the bound is worse than this part of the values. */
const RELATIVE = 1e-10

export interface EvaluationOptions {
  /** In units of reward. */
  readonly tolerance?: number
  /** [states] where sweeps begin, when there are any */
  readonly initial?: Float64Array
  /** Whether it must be a direct solution. */
  readonly direct?: boolean
}

/**
 * The exact value of every state under a policy: the solution of v = r + discount P v.
 *
 * Small models are solved directly, by state reduction (`StateReduction`) and two steps of refinement with residuals
 * summed in doubled precision (Wilkinson 1963). Larger ones by Gauss-Seidel sweeps from the endings backwards, refined
 * in the same way, until the error is at most `tolerance`: the error of v is bounded by the largest residual times the
 * expected (discounted) number of steps that are left. Where that does not come about soon, as in long chains that end
 * late, they are solved directly as well, as far as memory allows.
 */
export function evaluatePolicy(
  model: Model,
  policy: RowPolicy,
  discount: number,
  { tolerance = 1e-10, initial, direct = false }: EvaluationOptions = {},
): Evaluation {
  const { steps, endless } = endlessUnder(model, policy, discount)
  const inside = Uint8Array.from({ length: model.states }, (_, s) => (model.ending[s] || endless[s] ? 0 : 1))
  const chain = chainOf(model, policy, discount, inside)
  const solved = solveChain(chain, steps, discount, tolerance, direct, initial)
  const values = Float64Array.from(endless, (lost) => (lost ? NaN : 0))
  solved.values.forEach((value, i) => (values[chain.origin[i]] = value))
  const startsLost = model.startState.some((s) => endless[s] === 1)
  return {
    outcome: solved.outcome === 'solved' && startsLost ? 'never-ends' : solved.outcome,
    values,
    bound: solved.bound,
    endless: Int32Array.from({ length: model.states }, (_, s) => s).filter((s) => endless[s] === 1),
  }
}

/** The policy that takes every available action equally often. */
export function randomPolicy(model: Model): RowPolicy {
  const policy = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++)
    policy.fill(1 / (model.rowStart[s + 1] - model.rowStart[s]), model.rowStart[s], model.rowStart[s + 1])
  return policy
}

/** The policy that always takes a state's first action. */
export function firstPolicy(model: Model): RowPolicy {
  const policy = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++) if (!model.ending[s]) policy[model.rowStart[s]] = 1
  return policy
}

interface Solved {
  readonly outcome: 'solved' | 'too-large' | 'budget-spent'
  /** [chain states] */
  readonly values: Float64Array
  readonly bound: number
}

function solveChain(
  chain: Chain,
  steps: Int32Array,
  discount: number,
  tolerance: number,
  direct: boolean,
  initial?: Float64Array,
): Solved {
  const { states } = chain
  if (direct || (states <= SMALL_CHAIN && !initial))
    return solveDirectly(chain) ?? { outcome: 'too-large', values: new Float64Array(states), bound: Infinity }
  const first = Math.max(FIRST_SWEEPS, Math.floor(FIRST_BACKUPS / Math.max(1, chain.next.length)))
  const quick = solveBySweeps(chain, steps, discount, tolerance, first, initial)
  if (quick.outcome === 'solved') return quick
  return solveDirectly(chain) ?? solveBySweeps(chain, steps, discount, tolerance, SWEEP_LIMIT, initial)
}

function solveDirectly(chain: Chain): Solved | null {
  const reduction = StateReduction.of(chain)
  if (!reduction) return null
  const values = reduction.solve(chain.reward)
  const refine = () => {
    const correction = reduction.solve(preciseResidual(chain, values))
    return correction.reduce((most, part, s) => {
      values[s] += part
      return Math.max(most, Math.abs(part))
    }, 0)
  }
  refine()
  return { outcome: 'solved', values, bound: refine() }
}

function solveBySweeps(
  chain: Chain,
  steps: Int32Array,
  discount: number,
  tolerance: number,
  sweeps: number,
  initial?: Float64Array,
): Solved {
  const { states, origin } = chain
  const order = Int32Array.from({ length: states }, (_, i) => i).sort(
    (x, y) => steps[origin[x]] - steps[origin[y]],
  )
  const values = Float64Array.from(origin, (s) => (Number.isFinite(initial?.[s]) ? initial![s] : 0))
  const budget = { sweeps }
  const longest = discount < 1 ? 1 / (1 - discount) : expectedSteps(chain, order, budget)
  let swept =
    Number.isFinite(longest) && sweepToFloor(chain, order, chain.reward, values, tolerance / longest, budget)
  let bound = Infinity
  // Rounding leaves an error that grows with the length of episodes. Solving again for what is left, with the
  // residual summed in doubled precision, takes it away (iterative refinement, Wilkinson 1963).
  for (let round = 0; swept && round < 4; round++) {
    const left = preciseResidual(chain, values)
    bound = left.reduce((most, x) => Math.max(most, Math.abs(x)), 0) * longest
    if (bound <= tolerance) break
    const correction = new Float64Array(states)
    swept = sweepToFloor(chain, order, left, correction, tolerance / longest / 4, budget)
    for (let s = 0; s < states; s++) values[s] += correction[s]
  }
  const size = values.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  const enough = swept && bound <= Math.max(tolerance, RELATIVE * size)
  return { outcome: enough ? 'solved' : 'budget-spent', values, bound }
}

function backup({ start, next, weight }: Chain, s: number, values: Float64Array, reward: number): number {
  let sum = reward
  for (let k = start[s]; k < start[s + 1]; k++) sum += weight[k] * values[next[k]]
  return sum
}

/**
 * Gauss-Seidel sweeps on x = right + W x until a sweep changes nothing by more than `small`, or only the last bits.
 * @returns false when the budget was spent before
 */
function sweepToFloor(
  chain: Chain,
  order: Int32Array,
  right: Float64Array,
  x: Float64Array,
  small: number,
  budget: { sweeps: number },
): boolean {
  let previous = Infinity
  while (budget.sweeps-- > 0) {
    let change = 0
    let size = 0
    for (const s of order) {
      const value = backup(chain, s, x, right[s])
      change = Math.max(change, Math.abs(value - x[s]))
      size = Math.max(size, Math.abs(value))
      x[s] = value
    }
    if (change <= small || change <= 4e-16 * size || (change >= previous && change < 1e-13 * size))
      return true
    previous = change
  }
  return false
}

/** The largest expected number of steps to an ending, a little from above; infinity when the budget is spent. */
function expectedSteps(chain: Chain, order: Int32Array, budget: { sweeps: number }): number {
  const left = new Float64Array(chain.states)
  while (budget.sweeps-- > 0) {
    let grew = 0
    let most = 0
    for (const s of order) {
      const value = backup(chain, s, left, 1)
      grew = Math.max(grew, value - left[s])
      most = Math.max(most, value)
      left[s] = value
    }
    if (grew <= 1e-3) return most * 1.1 + 1
  }
  return Infinity
}
