import { exponential } from '../../random/exponential'
import type { RandomStream } from '../../random/generator'
import type { GreedyTable } from '../greedy-table'
import { draw, type Actor } from './actor'
import type { ExplorationKind } from './exploration'

export const softmax: ExplorationKind = {
  title: 'softmax',
  level: 'Temperature',
  hint: 'Better actions are likelier, by e to the power of value / temperature: a small temperature is nearly greedy.',
  brief: 'softmax, temperature',
  range: { min: 0, max: 1e9, aboveMin: true },
  usual: 1,
  kernels: { leanOneStep: 0 },
  goesByVisits: false,
  forBandits: false,
  create: ({ table, exploration, mostRows }) => new Softmax(table, exploration, mostRows),
}

/** Each action with a chance in proportion to e to the power of its value / `level`. */
class Softmax implements Actor {
  /** Whether the last choice was not a best action. */
  explored = false
  /** The temperature, above 0. */
  level = 1
  private readonly weights: Float64Array

  constructor(
    private readonly table: GreedyTable,
    private readonly exploration: RandomStream,
    mostRows: number,
  ) {
    this.weights = new Float64Array(mostRows)
  }

  choose(observation: number): number {
    const { start, values } = this.table
    const best = this.table.best(observation)
    this.chances(observation, this.weights)
    const row =
      start[observation] +
      draw(this.weights, start[observation + 1] - start[observation], this.exploration.uniform())
    this.explored = values[row] !== best
    return row
  }

  /** The largest value is taken off first, so that no power overflows and the sum is at least 1. */
  chances(observation: number, out: Float64Array): void {
    const { start, values } = this.table
    const best = this.table.best(observation)
    const from = start[observation]
    const size = start[observation + 1] - from
    let sum = 0
    for (let k = 0; k < size; k++) sum += out[k] = exponential((values[from + k] - best) / this.level)
    for (let k = 0; k < size; k++) out[k] /= sum
  }
}
