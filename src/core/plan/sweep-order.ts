import type { Model } from '../model/model'
import { stepsToEnding } from './reach'

/** The orders in which a sweep in place can go through the states. */
export const SWEEP_ORDERS = {
  'from-endings': 'endings first',
  forward: 'first state to last',
  backward: 'last state to first',
} as const
export type SweepOrder = keyof typeof SWEEP_ORDERS

/** The states that have actions, in an order; those that cannot end come last when going back from the endings. */
export function sweepSequence(model: Model, order: SweepOrder): Int32Array {
  let count = 0
  const open = new Int32Array(model.states)
  for (let s = 0; s < model.states; s++) if (!model.ending[s]) open[count++] = s
  return arrange(model, open.subarray(0, count), order)
}

function arrange(model: Model, open: Int32Array, order: SweepOrder): Int32Array {
  if (order === 'forward') return open
  if (order === 'backward') return open.reverse()
  const steps = stepsToEnding(model)
  // Sorted by counting: by distance, those of one distance by their number, the lost ones last.
  const far = model.states
  const next = new Int32Array(far + 2)
  for (const s of open) next[(steps[s] < 0 ? far : steps[s]) + 1]++
  for (let d = 0; d <= far; d++) next[d + 1] += next[d]
  const sequence = new Int32Array(open.length)
  for (const s of open) sequence[next[steps[s] < 0 ? far : steps[s]]++] = s
  return sequence
}
