import { exponential } from '../random/exponential'
import type { RandomStream } from '../random/generator'
import type { GreedyTable } from './greedy-table'

/** How an agent picks what it does. */
export interface Actor {
  /** Whether the last choice was a random action. */
  explored: boolean
  /** Exploration or temperature, for those that have one. */
  level?: number
  /** A table row of the group. */
  choose(group: number): number
  /** Writes the chances of the group's rows, in their order, to the front of `out`. */
  chances(group: number, out: Float64Array): void
}

/** A random action with a chance of `level`, all equally likely; else the best one. */
export class EpsilonGreedy implements Actor {
  explored = false
  level = 0

  constructor(
    private readonly table: GreedyTable,
    private readonly exploration: RandomStream,
    /** Null: the first of several best actions is taken. */
    private readonly ties: RandomStream | null,
  ) {}

  choose(group: number): number {
    const { start } = this.table
    this.explored = this.exploration.uniform() < this.level
    return this.explored
      ? start[group] + this.exploration.below(start[group + 1] - start[group])
      : this.table.pick(group, this.ties)
  }

  chances(group: number, out: Float64Array): void {
    const { start, values, best, first, count } = this.table
    const from = start[group]
    const size = start[group + 1] - from
    const greedy = this.ties ? (1 - this.level) / count[group] : 1 - this.level
    for (let k = 0; k < size; k++) {
      const chosen = this.ties ? values[from + k] === best[group] : from + k === first[group]
      out[k] = this.level / size + (chosen ? greedy : 0)
    }
  }
}

/** Each action with a chance in proportion to e to the power of its value / `level`. */
export class Softmax implements Actor {
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

  choose(group: number): number {
    const { start, values, best } = this.table
    this.chances(group, this.weights)
    const row = start[group] + draw(this.weights, start[group + 1] - start[group], this.exploration.uniform())
    this.explored = values[row] !== best[group]
    return row
  }

  /** The largest value is taken off first, so that no power overflows and the sum is at least 1. */
  chances(group: number, out: Float64Array): void {
    const { start, values, best } = this.table
    const from = start[group]
    const size = start[group + 1] - from
    let sum = 0
    for (let k = 0; k < size; k++) sum += out[k] = exponential((values[from + k] - best[group]) / this.level)
    for (let k = 0; k < size; k++) out[k] /= sum
  }
}

/** Follows chances that stand in a table: a given policy, or one that is learned itself. */
export class Following implements Actor {
  explored = false

  constructor(
    private readonly start: Int32Array,
    /** [tableRows] */
    private readonly policy: Float64Array,
    private readonly exploration: RandomStream,
  ) {}

  choose(group: number): number {
    const from = this.start[group]
    const size = this.start[group + 1] - from
    return from + draw(this.policy.subarray(from, from + size), size, this.exploration.uniform())
  }

  chances(group: number, out: Float64Array): void {
    for (let row = this.start[group], k = 0; row < this.start[group + 1]; row++) out[k++] = this.policy[row]
  }
}

/** The entry that a draw from [0, 1) falls on; the last one catches what rounding leaves over. */
function draw(chances: Float64Array, size: number, uniform: number): number {
  let k = 0
  for (let left = uniform; k < size - 1 && left >= chances[k]; k++) left -= chances[k]
  return k
}
