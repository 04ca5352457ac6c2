/** A cell whose trace has become smaller than this is forgotten: it would move nothing that can be seen. */
const FORGOTTEN = 1e-9

/** Eligibility traces of a table's cells; only those above nothing are gone through. */
export class Traces {
  /** [cells] */
  readonly values: Float64Array
  /** The first `count` entries are the cells that have a trace. */
  readonly cells: Int32Array
  count = 0

  constructor(size: number) {
    this.values = new Float64Array(size)
    this.cells = new Int32Array(size)
  }

  /** A visit: adds 1, or sets to 1 where traces are replaced. */
  visit(cell: number, replacing: boolean): void {
    const { values, cells } = this
    if (values[cell] === 0) cells[this.count++] = cell
    values[cell] = replacing ? 1 : values[cell] + 1
  }

  /** All traces fade by a factor. */
  fade(factor: number): void {
    const { values, cells } = this
    let kept = 0
    for (let i = 0; i < this.count; i++) {
      const cell = cells[i]
      const left = values[cell] * factor
      if (left > FORGOTTEN) {
        values[cell] = left
        cells[kept++] = cell
      } else values[cell] = 0
    }
    this.count = kept
  }

  clear(): void {
    for (let i = 0; i < this.count; i++) this.values[this.cells[i]] = 0
    this.count = 0
  }
}
