/** Finds the number of a state by its code; a hash table on typed arrays, with linear probing. */
export class StateIndex {
  /** [count] the codes in the order in which they came */
  codes = new Float64Array(1024)
  count = 0
  private table = new Int32Array(4096).fill(-1)
  private mask = 4095

  /** The number of a code, or -1. */
  find(code: number): number {
    let at = this.place(code)
    while (this.table[at] >= 0) {
      if (this.codes[this.table[at]] === code) return this.table[at]
      at = (at + 1) & this.mask
    }
    return -1
  }

  /** The number of a code, the next free one when new. */
  add(code: number): number {
    let at = this.place(code)
    while (this.table[at] >= 0) {
      if (this.codes[this.table[at]] === code) return this.table[at]
      at = (at + 1) & this.mask
    }
    if (this.count === this.codes.length) this.codes = twice(this.codes)
    this.codes[this.count] = code
    this.table[at] = this.count++
    if (this.count * 2 > this.table.length) this.rehash()
    return this.count - 1
  }

  /** Codes are whole numbers up to 2^53: both halves are mixed. */
  private place(code: number): number {
    const low = code | 0
    const high = (code / 4294967296) | 0
    let hash = Math.imul(low ^ Math.imul(high, 0x9e3779b1), 0x85ebca6b)
    hash ^= hash >>> 15
    return (Math.imul(hash, 0xc2b2ae35) >>> 5) & this.mask
  }

  private rehash(): void {
    this.table = new Int32Array(2 * this.table.length).fill(-1)
    this.mask = this.table.length - 1
    for (let i = 0; i < this.count; i++) {
      let at = this.place(this.codes[i])
      while (this.table[at] >= 0) at = (at + 1) & this.mask
      this.table[at] = i
    }
  }
}

function twice(from: Float64Array): Float64Array<ArrayBuffer> {
  const to = new Float64Array(2 * from.length)
  to.set(from)
  return to
}
