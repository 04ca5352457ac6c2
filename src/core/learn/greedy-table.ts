import type { RandomStream } from '../random/generator'

/**
 * A table of action values that always knows each observation's maximum and how many rows share it, so that neither
 * choosing an action nor bootstrapping has to scan.
 */
export class GreedyTable {
  /** [rows] write by `write`, or call `refresh` after */
  readonly values: Float64Array
  /** [observations x 16 bytes] the largest value, the first row that has it and how many have it: in one place for kernels. */
  readonly records: Float64Array
  private readonly ints: Int32Array

  /** @param start [observations + 1] the rows of each observation */
  constructor(
    readonly start: Int32Array,
    allocate: Allocate = plainArrays,
  ) {
    const observations = start.length - 1
    this.values = allocate.floats(start[observations])
    this.records = allocate.floats(2 * observations)
    this.ints = new Int32Array(this.records.buffer, this.records.byteOffset, 4 * observations)
    for (let observation = 0; observation < observations; observation++) this.refresh(observation)
  }

  /** The largest value of an observation; 0 without rows, so that endings need no special case. */
  best(observation: number): number {
    return this.records[2 * observation]
  }

  /** The first row that has it. */
  first(observation: number): number {
    return this.ints[4 * observation + 2]
  }

  /** How many rows have it. */
  count(observation: number): number {
    return this.ints[4 * observation + 3]
  }

  write(observation: number, row: number, value: number): void {
    const old = this.values[row]
    this.values[row] = value
    const top = this.best(observation)
    if (value > top) this.note(observation, value, row, 1)
    else if (old === top ? value !== top : value === top) this.refresh(observation)
  }

  /** A row with the largest value: a random one among equals, or the first where no stream is given. */
  pick(observation: number, ties: RandomStream | null): number {
    let row = this.first(observation)
    const equals = this.count(observation)
    if (equals === 1 || !ties) return row
    const top = this.best(observation)
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
    this.note(observation, best, first, count)
  }

  refreshAll(): void {
    for (let observation = 0; 2 * observation < this.records.length; observation++) this.refresh(observation)
  }

  private note(observation: number, best: number, first: number, count: number): void {
    this.records[2 * observation] = best
    this.ints[4 * observation + 2] = first
    this.ints[4 * observation + 3] = count
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
