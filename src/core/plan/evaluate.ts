import type { Model, RowPolicy } from '../model/model'
import { statesWithoutEnding, stepsToEnding } from './reach'

/** What became of an exact evaluation. */
export type Evaluation =
  | { readonly outcome: 'solved'; readonly values: Float64Array; readonly bound: number }
  /** At discount 1 these states never end under the policy, so they have no finite value. */
  | { readonly outcome: 'never-ends'; readonly states: readonly string[] }
  | { readonly outcome: 'budget-spent'; readonly values: Float64Array; readonly bound: number }

/** Up to here a dense elimination is quicker than sweeping, and needs no stopping rule. */
const DENSE_LIMIT = 300
const SWEEP_LIMIT = 200_000

/**
 * The exact value of every state under a policy: the solution of v = r + discount P v.
 *
 * Small models are solved by elimination with partial pivoting and one step of refinement. Larger ones by
 * Gauss-Seidel sweeps from the endings backwards, with refinement, until the error is at most `tolerance`: the error
 * of v is bounded by the largest residual times the expected (discounted) number of steps that are left.
 */
export function evaluatePolicy(
  model: Model,
  policy: RowPolicy,
  discount: number,
  options: { tolerance?: number; initial?: Float64Array; sweeps?: number } = {},
): Evaluation {
  const steps = stepsToEnding(model, policy)
  if (discount === 1) {
    const lost = statesWithoutEnding(model, steps)
    if (lost.length) return { outcome: 'never-ends', states: lost }
  }
  const chain = chainOf(model, policy, discount)
  if (model.states <= DENSE_LIMIT && !options.initial) return solveDense(chain)
  return solveBySweeps(
    chain,
    steps,
    discount,
    options.tolerance ?? 1e-10,
    options.sweeps ?? SWEEP_LIMIT,
    options.initial,
  )
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

/** A policy's Markov chain with the discount folded in, in compressed rows. */
interface Chain {
  readonly states: number
  readonly start: Int32Array
  readonly next: Int32Array
  readonly weight: Float64Array
  readonly reward: Float64Array
  readonly ending: Uint8Array
}

function chainOf(model: Model, policy: RowPolicy, discount: number): Chain {
  const start = new Int32Array(model.states + 1)
  const next: number[] = []
  const weight: number[] = []
  const reward = new Float64Array(model.states)
  for (let s = 0; s < model.states; s++) {
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      if (policy[r] > 0)
        for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
          const probability = policy[r] * model.outcomeProbability[o]
          next.push(model.outcomeState[o])
          weight.push(discount * probability)
          reward[s] += probability * model.outcomeReward[o]
        }
    start[s + 1] = next.length
  }
  return {
    states: model.states,
    start,
    next: Int32Array.from(next),
    weight: Float64Array.from(weight),
    reward,
    ending: model.ending,
  }
}

function solveDense(chain: Chain): Evaluation {
  const n = chain.states
  const matrix = new Float64Array(n * n)
  for (let s = 0; s < n; s++) {
    matrix[s * n + s] = 1
    for (let k = chain.start[s]; k < chain.start[s + 1]; k++) matrix[s * n + chain.next[k]] -= chain.weight[k]
  }
  const { factors, order } = factorise(matrix, n)
  const values = substitute(factors, order, chain.reward, n)
  const correction = substitute(factors, order, preciseResidual(chain, values), n)
  for (let s = 0; s < n; s++) values[s] += correction[s]
  let bound = 0
  for (const part of substitute(factors, order, preciseResidual(chain, values), n))
    bound = Math.max(bound, Math.abs(part))
  return { outcome: 'solved', values, bound }
}

/** LU factors with partial pivoting (Golub & Van Loan 2013, section 3.4); the matrix here is never singular. */
function factorise(matrix: Float64Array, n: number): { factors: Float64Array; order: Int32Array } {
  const order = Int32Array.from({ length: n }, (_, i) => i)
  for (let column = 0; column < n; column++) {
    let pivot = column
    for (let r = column + 1; r < n; r++)
      if (Math.abs(matrix[r * n + column]) > Math.abs(matrix[pivot * n + column])) pivot = r
    if (pivot !== column) {
      for (let k = 0; k < n; k++) {
        const held = matrix[pivot * n + k]
        matrix[pivot * n + k] = matrix[column * n + k]
        matrix[column * n + k] = held
      }
      const held = order[pivot]
      order[pivot] = order[column]
      order[column] = held
    }
    for (let r = column + 1; r < n; r++) {
      const factor = matrix[r * n + column] / matrix[column * n + column]
      if (factor === 0) continue
      matrix[r * n + column] = factor
      for (let k = column + 1; k < n; k++) matrix[r * n + k] -= factor * matrix[column * n + k]
    }
  }
  return { factors: matrix, order }
}

function substitute(factors: Float64Array, order: Int32Array, right: Float64Array, n: number): Float64Array {
  const x = Float64Array.from(order, (row) => right[row])
  for (let r = 0; r < n; r++) for (let k = 0; k < r; k++) x[r] -= factors[r * n + k] * x[k]
  for (let r = n - 1; r >= 0; r--) {
    for (let k = r + 1; k < n; k++) x[r] -= factors[r * n + k] * x[k]
    x[r] /= factors[r * n + r]
  }
  return x
}

function backup(chain: Chain, s: number, values: Float64Array, reward: number): number {
  let sum = reward
  for (let k = chain.start[s]; k < chain.start[s + 1]; k++) sum += chain.weight[k] * values[chain.next[k]]
  return sum
}

function solveBySweeps(
  chain: Chain,
  steps: Int32Array,
  discount: number,
  tolerance: number,
  sweeps: number,
  initial?: Float64Array,
): Evaluation {
  const order = Int32Array.from({ length: chain.states }, (_, s) => s)
    .filter((s) => !chain.ending[s])
    .sort((x, y) => steps[x] - steps[y])
  const values = initial ? initial.slice() : new Float64Array(chain.states)
  for (let s = 0; s < chain.states; s++) if (chain.ending[s]) values[s] = 0
  const longest = discount < 1 ? 1 / (1 - discount) : expectedSteps(chain, order, sweeps)
  let swept = sweepToFloor(chain, order, chain.reward, values, tolerance / longest, sweeps)
  let bound = Infinity
  // Rounding leaves an error that grows with the length of episodes. Solving again for what is left, with the
  // residual summed in doubled precision, takes it away (iterative refinement, Wilkinson 1963).
  for (let round = 0; swept && round < 4; round++) {
    const left = preciseResidual(chain, values)
    bound = left.reduce((most, x) => Math.max(most, Math.abs(x)), 0) * longest
    if (bound <= tolerance) break
    const correction = new Float64Array(chain.states)
    swept = sweepToFloor(chain, order, left, correction, tolerance / longest / 4, sweeps)
    for (let s = 0; s < chain.states; s++) values[s] += correction[s]
  }
  return { outcome: swept ? 'solved' : 'budget-spent', values, bound }
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
  sweeps: number,
): boolean {
  let previous = Infinity
  for (let i = 0; i < sweeps; i++) {
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

/** right + W v - v, each sum carried in two numbers (Ogita, Rump & Oishi 2005, algorithm 5.3). */
function preciseResidual(chain: Chain, values: Float64Array): Float64Array {
  const residuals = new Float64Array(chain.states)
  for (let s = 0; s < chain.states; s++) {
    if (chain.ending[s]) continue
    let high = chain.reward[s]
    let low = 0
    const add = (term: number) => {
      const sum = high + term
      const part = sum - high
      low += high - (sum - part) + (term - part)
      high = sum
    }
    for (let k = chain.start[s]; k < chain.start[s + 1]; k++) {
      const product = chain.weight[k] * values[chain.next[k]]
      low += productError(chain.weight[k], values[chain.next[k]], product)
      add(product)
    }
    add(-values[s])
    residuals[s] = high + low
  }
  return residuals
}

/** What rounding took from x * y (Dekker 1971). */
function productError(x: number, y: number, product: number): number {
  const xBig = 134217729 * x
  const xHigh = xBig - (xBig - x)
  const yBig = 134217729 * y
  const yHigh = yBig - (yBig - y)
  const xLow = x - xHigh
  const yLow = y - yHigh
  return xLow * yLow - (product - xHigh * yHigh - xLow * yHigh - xHigh * yLow)
}

/** The largest expected number of steps to an ending, a little from above; infinity when the budget is spent. */
function expectedSteps(chain: Chain, order: Int32Array, sweeps: number): number {
  const left = new Float64Array(chain.states)
  for (let i = 0; i < sweeps; i++) {
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
