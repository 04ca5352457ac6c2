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
  const open = Int32Array.from({ length: model.states }, (_, s) => s).filter((s) => !model.ending[s])
  if (order === 'forward') return open
  if (order === 'backward') return open.reverse()
  const steps = stepsToEnding(model)
  const distance = (s: number) => (steps[s] < 0 ? Infinity : steps[s])
  return open.sort((x, y) => (distance(x) === distance(y) ? x - y : distance(x) - distance(y)))
}
