import { plainArrays, type Allocate } from '../../greedy-table'

/** A cell whose trace has become smaller than this is forgotten: it would move nothing that can be seen. */
const FORGOTTEN = 1e-9

/** Eligibility traces of a table's cells; only those above nothing are gone through. */
export class Traces {
  /** [cells] */
  readonly values: Float64Array
  /** The first `count` entries are the cells that have a trace. */
  readonly cells: Int32Array
  /** [1] */
  readonly counted: Int32Array

  constructor(size: number, allocate: Allocate = plainArrays) {
    this.values = allocate.floats(size)
    this.cells = allocate.ints(size)
    this.counted = allocate.ints(1)
  }

  get count(): number {
    return this.counted[0]
  }

  /** All there is to it, for snapshots. */
  kept(): Record<string, Float64Array | Int32Array> {
    return { traces: this.values, traceCells: this.cells, traceCount: this.counted }
  }

  /** A visit: adds 1, or sets to 1 where traces are replaced. */
  visit(cell: number, replacing: boolean): void {
    const { values, cells } = this
    if (values[cell] === 0) cells[this.counted[0]++] = cell
    values[cell] = replacing ? 1 : values[cell] + 1
  }

  /** All traces fade by a factor. */
  fade(factor: number): void {
    const { values, cells } = this
    let kept = 0
    const { count } = this
    for (let i = 0; i < count; i++) {
      const cell = cells[i]
      const left = values[cell] * factor
      if (left > FORGOTTEN) {
        values[cell] = left
        cells[kept++] = cell
      } else values[cell] = 0
    }
    this.counted[0] = kept
  }

  clear(): void {
    for (let i = 0; i < this.count; i++) this.values[this.cells[i]] = 0
    this.counted[0] = 0
  }
}
