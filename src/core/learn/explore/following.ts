import type { RandomStream } from '../../random/generator'
import type { Actor } from './actor'

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
    const { start, policy } = this
    const last = start[observation + 1] - 1
    let row = start[observation]
    // As in `draw`, without a view for every choice.
    for (let left = this.exploration.uniform(); row < last && left >= policy[row]; row++) left -= policy[row]
    return row
  }

  chances(observation: number, out: Float64Array): void {
    for (let row = this.start[observation], k = 0; row < this.start[observation + 1]; row++)
      out[k++] = this.policy[row]
  }
}
