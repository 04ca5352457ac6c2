import type { RandomStream } from '../random/generator'

/**
 * A table of action values that always knows each group's maximum and how many rows share it, so that neither
 * choosing an action nor bootstrapping has to scan. `refresh` is the from-scratch twin of `set`.
 */
export class GreedyTable {
  readonly values: Float64Array
  /** [groups] the largest value of the group; 0 for a group without rows, so endings need no special case */
  readonly best: Float64Array
  /** [groups] the first row that has it */
  readonly first: Int32Array
  /** [groups] how many rows have it */
  readonly count: Int32Array

  /** @param start [groups + 1] the rows of each group */
  constructor(
    readonly start: Int32Array,
    initial = 0,
  ) {
    const groups = start.length - 1
    this.values = new Float64Array(start[groups]).fill(initial)
    this.best = new Float64Array(groups)
    this.first = new Int32Array(groups)
    this.count = new Int32Array(groups)
    for (let group = 0; group < groups; group++) this.refresh(group)
  }

  /** A greedy row of the group, ties broken by the stream. The group must have rows. */
  greedy(group: number, ties: RandomStream): number {
    const count = this.count[group]
    if (count === 1) return this.first[group]
    const best = this.best[group]
    let row = this.first[group]
    for (let skip = ties.below(count); skip > 0; skip--)
      do row++
      while (this.values[row] !== best)
    return row
  }

  /** True when the row's value is its group's maximum. */
  isGreedy(group: number, row: number): boolean {
    return this.values[row] === this.best[group]
  }

  set(group: number, row: number, value: number): void {
    const old = this.values[row]
    const best = this.best[group]
    this.values[row] = value
    if (value > best) {
      this.best[group] = value
      this.first[group] = row
      this.count[group] = 1
    } else if (old === best ? value !== best : value === best) this.refresh(group)
  }

  /** Finds maximum, first row and count of a group again. */
  refresh(group: number): void {
    const end = this.start[group + 1]
    let first = this.start[group]
    if (first === end) return
    let best = this.values[first]
    let count = 1
    for (let row = first + 1; row < end; row++) {
      const value = this.values[row]
      if (value > best) {
        best = value
        first = row
        count = 1
      } else if (value === best) count++
    }
    this.best[group] = best
    this.first[group] = first
    this.count[group] = count
  }
}
