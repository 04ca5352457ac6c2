import type { RandomStream } from '../random/generator'

/**
 * A table of action values that always knows each group's maximum and how many rows share it, so that neither
 * choosing an action nor bootstrapping has to scan.
 */
export class GreedyTable {
  /** [rows] write by `write`, or call `refresh` after */
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
    allocate: Allocate = plainArrays,
  ) {
    const groups = start.length - 1
    this.values = allocate.floats(start[groups])
    this.best = allocate.floats(groups)
    this.first = allocate.ints(groups)
    this.count = allocate.ints(groups)
    for (let group = 0; group < groups; group++) this.refresh(group)
  }

  write(group: number, row: number, value: number): void {
    const old = this.values[row]
    this.values[row] = value
    const top = this.best[group]
    if (value > top) {
      this.best[group] = value
      this.first[group] = row
      this.count[group] = 1
    } else if (old === top ? value !== top : value === top) this.refresh(group)
  }

  /** A row with the largest value: a random one among equals, or the first where no stream is given. */
  pick(group: number, ties: RandomStream | null): number {
    let row = this.first[group]
    const equals = this.count[group]
    if (equals === 1 || !ties) return row
    const top = this.best[group]
    for (let skip = ties.below(equals); skip > 0; skip--)
      do row++
      while (this.values[row] !== top)
    return row
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

  refreshAll(): void {
    for (let group = 0; group < this.best.length; group++) this.refresh(group)
  }
}

/** Where arrays come from: anywhere, or a memory that a kernel shares. All begin with zeros. */
export interface Allocate {
  floats(length: number): Float64Array
  ints(length: number): Int32Array
}

export const plainArrays: Allocate = {
  floats: (length) => new Float64Array(length),
  ints: (length) => new Int32Array(length),
}
