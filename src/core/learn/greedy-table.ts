import type { RandomStream } from '../random/generator'

/**
 * A table of action values that always knows each observation's maximum and how many rows share it, so that neither
 * choosing an action nor bootstrapping has to scan.
 */
export class GreedyTable {
  /** [rows] write by `write`, or call `refresh` after */
  readonly values: Float64Array
  /** [observations] the largest value of the observation; 0 for a observation without rows, so endings need no special case */
  readonly best: Float64Array
  /** [observations] the first row that has it */
  readonly first: Int32Array
  /** [observations] how many rows have it */
  readonly count: Int32Array

  /** @param start [observations + 1] the rows of each observation */
  constructor(
    readonly start: Int32Array,
    allocate: Allocate = plainArrays,
  ) {
    const observations = start.length - 1
    this.values = allocate.floats(start[observations])
    this.best = allocate.floats(observations)
    this.first = allocate.ints(observations)
    this.count = allocate.ints(observations)
    for (let observation = 0; observation < observations; observation++) this.refresh(observation)
  }

  write(observation: number, row: number, value: number): void {
    const old = this.values[row]
    this.values[row] = value
    const top = this.best[observation]
    if (value > top) {
      this.best[observation] = value
      this.first[observation] = row
      this.count[observation] = 1
    } else if (old === top ? value !== top : value === top) this.refresh(observation)
  }

  /** A row with the largest value: a random one among equals, or the first where no stream is given. */
  pick(observation: number, ties: RandomStream | null): number {
    let row = this.first[observation]
    const equals = this.count[observation]
    if (equals === 1 || !ties) return row
    const top = this.best[observation]
    for (let skip = ties.below(equals); skip > 0; skip--)
      do row++
      while (this.values[row] !== top)
    return row
  }

  /** Finds maximum, first row and count of a observation again. */
  refresh(observation: number): void {
    const end = this.start[observation + 1]
    let first = this.start[observation]
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
    this.best[observation] = best
    this.first[observation] = first
    this.count[observation] = count
  }

  refreshAll(): void {
    for (let observation = 0; observation < this.best.length; observation++) this.refresh(observation)
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
