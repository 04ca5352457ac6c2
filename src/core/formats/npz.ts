import { zipSync } from 'fflate'
import type { Model } from '../model/model'
import { writeNpy, writeNpyInts, writeNpyTexts } from './npy'
import { squared } from './squared'
import type { TableNumbers } from './table-numbers'

/** What the name of the file ends with; a notebook looks for it. */
export const NUMBERS = '-numbers.npz'

/**
 * A model with the numbers that lie over it as arrays by name, in one .npz file: a zip of .npy files.
 *
 * `states`, `actions` [texts]; `ending` [states] 1 where an episode ends; of each pair of state and action, in the order of states:
 * `row_state`, `row_action` (places in those lists); of each outcome: `outcome_row`, `outcome_state`, `outcome_probability`,
 * `outcome_reward`, `outcome_discount`; `start_state`, `start_probability`; `discount` [1]. As far as they are there: `values` [states],
 * `action_values`, `policy` [states, actions], not a number where an action is not possible; `curve_episode`, `curve_return`.
 */
export function writeNpz(model: Model, numbers: TableNumbers): Uint8Array<ArrayBuffer> {
  const { rows, outcomes, states, rowStart, outcomeStart } = model
  const owners = (start: Int32Array, count: number) => {
    const owner = new Int32Array(count)
    for (let i = 0; i + 1 < start.length; i++) owner.fill(i, start[i], start[i + 1])
    return owner
  }
  const floats = (values: Float64Array) => writeNpy(values, [values.length])
  const table = (values: Float64Array) => writeNpy(squared(model, values), [states, model.actions.length])
  const { values, rowValues, policy, curve, discount } = numbers
  const arrays: Record<string, Uint8Array<ArrayBuffer>> = {
    states: writeNpyTexts(model.labels),
    actions: writeNpyTexts(model.actions),
    ending: writeNpyInts(model.ending),
    row_state: writeNpyInts(owners(rowStart, rows)),
    row_action: writeNpyInts(model.rowAction),
    outcome_row: writeNpyInts(owners(outcomeStart, outcomes)),
    outcome_state: writeNpyInts(model.outcomeState),
    outcome_probability: floats(model.outcomeProbability),
    outcome_reward: floats(model.outcomeReward),
    outcome_discount: floats(model.outcomeDiscount ?? new Float64Array(outcomes).fill(1)),
    start_state: writeNpyInts(model.startState),
    start_probability: floats(model.startProbability),
    discount: floats(Float64Array.of(discount)),
    ...(values.length === states ? { values: floats(values) } : {}),
    ...(rowValues.length === rows ? { action_values: table(rowValues) } : {}),
    ...(policy.length === rows ? { policy: table(policy) } : {}),
    ...(curve ? { curve_episode: floats(curve.episode), curve_return: floats(curve.mean) } : {}),
  }
  const files = Object.fromEntries(Object.entries(arrays).map(([name, bytes]) => [`${name}.npy`, bytes]))
  return new Uint8Array(zipSync(files, { level: 6, mtime: '1980-01-01T00:00:00' }))
}
