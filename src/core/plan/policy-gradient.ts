import type { Model, RowPolicy } from '../model/model'
import { startValue } from '../model/model'
import { actionValues, backupForm } from './backup'
import { chainOf, type Chain } from './chain'
import { evaluatePolicy, type EvaluationOptions } from './evaluate'
import { StateReduction } from './state-reduction'

/** What a policy is worth, and how that changes with its probabilities. */
export interface PolicyGradient {
  /** J: the expected discounted return from the start. */
  readonly start: number
  /** [states] */
  readonly values: Float64Array
  /** [rows] by how much an action is better than what the policy does on average: Q(s, a) − V(s) */
  readonly advantages: Float64Array
  /** [states] how often each state is met in an episode, later visits discounted */
  readonly occupancy: Float64Array
}

/** Sweeps at the most where a chain is too large to be solved directly. */
const SWEEPS = 200_000
/** Of what enters an episode so much may be left unaccounted for. */
const SMALL = 1e-13

/**
 * The policy gradient theorem in numbers (Sutton, McAllester, Singh & Mansour 2000; Sutton & Barto 2018, section 13.2):
 * the derivative of J by anything that moves the probabilities is Σ over states of how often they are met × Σ over actions
 * of the derivative of the probability × the advantage.
 * @returns null where the policy may never end from the start, undiscounted, or the model is too large
 */
export function policyGradient(
  model: Model,
  policy: RowPolicy,
  discount: number,
  options?: EvaluationOptions,
): PolicyGradient | null {
  const { outcome, values, endless } = evaluatePolicy(model, policy, discount, options)
  if (outcome !== 'solved') return null
  const lost = new Uint8Array(model.states)
  for (const s of endless) lost[s] = 1
  const inside = Uint8Array.from(lost, (off, s) => (model.ending[s] || off ? 0 : 1))
  const chain = chainOf(model, policy, discount, inside)
  const occupancy = occupancyOf(model, chain)
  if (!occupancy) return null
  const advantages = actionValues(backupForm(model, discount), values)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) advantages[r] -= values[s]
  return { start: startValue(model, values), values, advantages, occupancy }
}

/** How often each state is met: the solution of d = start + Wᵀ d. @returns null where that takes too long */
function occupancyOf(model: Model, chain: Chain): Float64Array | null {
  const place = new Int32Array(model.states).fill(-1)
  chain.origin.forEach((s, i) => (place[s] = i))
  const enters = new Float64Array(chain.states)
  model.startState.forEach((s, i) => (enters[place[s]] += model.startProbability[i]))
  const solved = StateReduction.of(chain)?.solveTransposed(enters) ?? sweepForward(chain, enters)
  if (!solved) return null
  const occupancy = new Float64Array(model.states)
  chain.origin.forEach((s, i) => (occupancy[s] = solved[i]))
  return occupancy
}

/** Follows the episode step by step until next to nothing of it is left. */
function sweepForward({ states, start, next, weight }: Chain, enters: Float64Array): Float64Array | null {
  const met = enters.slice()
  let now = enters
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    const then = new Float64Array(states)
    for (let s = 0; s < states; s++)
      if (now[s] > 0) for (let k = start[s]; k < start[s + 1]; k++) then[next[k]] += weight[k] * now[s]
    let left = 0
    for (let s = 0; s < states; s++) {
      met[s] += then[s]
      left += then[s]
    }
    if (left < SMALL) return met
    now = then
  }
  return null
}

/**
 * The derivative of J by the preferences of a softmax: [tableRows], for each action of each observation the sum over the
 * states that look so.
 * @param tableStart [observations + 1] the table rows of each observation
 * @param temperature  that preferences are divided by
 */
export function softmaxGradient(
  model: Model,
  tableStart: Int32Array,
  policy: RowPolicy,
  { occupancy, advantages }: Pick<PolicyGradient, 'occupancy' | 'advantages'>,
  temperature = 1,
): Float64Array {
  const gradient = new Float64Array(tableStart[tableStart.length - 1])
  for (let s = 0; s < model.states; s++) {
    const shift = tableStart[model.observation[s]] - model.rowStart[s]
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      gradient[r + shift] += (occupancy[s] * policy[r] * advantages[r]) / temperature
  }
  return gradient
}
