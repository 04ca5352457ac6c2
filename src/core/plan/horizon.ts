import type { Model } from '../model/model'
import { actionValues, backupForm, optimalSweep } from './backup'

/**
 * The best that can be had in exactly `horizon` steps (or fewer, where an ending comes first), by backward
 * induction (Puterman 1994, section 4.5): values and best rows at the first step.
 */
export function planHorizon(
  model: Model,
  discount: number,
  horizon: number,
): { values: Float64Array; rowValues: Float64Array } {
  const form = backupForm(model, discount)
  let later = new Float64Array(model.states)
  let values = new Float64Array(model.states)
  for (let step = 0; step < horizon; step++) {
    const held = later
    later = values
    values = held
    optimalSweep(form, later, values)
  }
  return { values, rowValues: actionValues(form, later) }
}
