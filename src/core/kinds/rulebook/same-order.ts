import type { SameItems } from './program'

/** Keeps the items of lists that may be exchanged in one order: that of their values, the first list before the others. */
export class SameOrder {
  /** [dimensions] the numbers of the values of the state at hand */
  private readonly index: Int32Array

  /**
   * @param radix  what a step of each dimension's value adds to a state's code
   * @param sizes  how many values each dimension has
   */
  constructor(
    private readonly groups: readonly SameItems[],
    private readonly radix: Float64Array,
    private readonly sizes: Float64Array,
  ) {
    this.index = new Int32Array(radix.length)
  }

  /** The code of the state in which every group of items is in order. */
  ordered(code: number): number {
    const { index, groups, radix } = this
    this.read(code)
    let result = code
    for (const { items } of groups)
      // Few items, mostly in order already: sorted by insertion.
      for (let i = 1; i < items.length; i++)
        for (let k = i; k > 0 && this.compare(items[k - 1], items[k]) > 0; k--)
          for (let l = 0; l < items[k].length; l++) {
            const [one, other] = [items[k - 1][l], items[k][l]]
            const [a, b] = [index[one], index[other]]
            result += (b - a) * radix[one] + (a - b) * radix[other]
            index[one] = b
            index[other] = a
          }
    return result
  }

  /** The code of a state with the items i and i + 1 of a group exchanged. */
  exchanged(code: number, { items }: SameItems, i: number): number {
    const { index, radix } = this
    this.read(code)
    return items[i].reduce((sum, one, l) => {
      const other = items[i + 1][l]
      return sum + (index[other] - index[one]) * (radix[one] - radix[other])
    }, code)
  }

  /** How many states there are that differ from this one in the order of their items alone, itself among them. */
  orders(code: number): number {
    this.read(code)
    let product = 1
    for (const { items } of this.groups) {
      let alike = 1
      for (let i = 1; i < items.length; i++) {
        alike = this.compare(items[i - 1], items[i]) === 0 ? alike + 1 : 1
        // (i + 1)! divided by the factorial of how often each item comes.
        product *= (i + 1) / alike
      }
    }
    return Math.round(product)
  }

  private read(code: number): void {
    const { index, radix, sizes } = this
    for (let d = 0; d < index.length; d++) index[d] = Math.floor(code / radix[d]) % sizes[d]
  }

  private compare(one: readonly number[], other: readonly number[]): number {
    for (let l = 0; l < one.length; l++) {
      const difference = this.index[one[l]] - this.index[other[l]]
      if (difference !== 0) return difference
    }
    return 0
  }
}
