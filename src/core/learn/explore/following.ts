import type { RandomStream } from '../../random/generator'
import { draw, type Actor } from './actor'

/** Follows chances that stand in a table: a given policy, or one that is learned itself. */
export class Following implements Actor {
  explored = false

  constructor(
    private readonly start: Int32Array,
    /** [tableRows] */
    private readonly policy: Float64Array,
    private readonly exploration: RandomStream,
  ) {}

  choose(observation: number): number {
    const from = this.start[observation]
    const size = this.start[observation + 1] - from
    return from + draw(this.policy.subarray(from, from + size), size, this.exploration.uniform())
  }

  chances(observation: number, out: Float64Array): void {
    for (let row = this.start[observation], k = 0; row < this.start[observation + 1]; row++)
      out[k++] = this.policy[row]
  }
}
