/**
 * A table of action values that always knows each group's maximum and how many rows share it, so that neither
 * choosing an action nor bootstrapping has to scan. Whoever writes a value keeps the three up, as the kernel does.
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
