/** Up to so many codes are looked up in a plain list: quicker than hashing, at four bytes a code. */
const PLAIN_LIMIT = 8_000_000

/** Finds the number of a state by its code: in a list, or where codes are too many in a hash table with linear probing. */
export class StateIndex {
  /** [count] the codes in the order in which they came */
  codes = new Float64Array(1024)
  count = 0
  private table = new Int32Array(4096).fill(-1)
  private mask = 4095
  /** [codes] the number of a state plus 1; null where codes are hashed */
  private readonly plain: Int32Array | null

  /** @param codes  how many there can be, from 0 */
  constructor(codes: number) {
    this.plain = codes <= PLAIN_LIMIT ? new Int32Array(codes) : null
  }

  /** The number of a code, the next free one when new. */
  add(code: number): number {
    const { plain } = this
    if (plain) {
      if (plain[code] === 0) plain[code] = this.note(code) + 1
      return plain[code] - 1
    }
    let at = this.place(code)
    while (this.table[at] >= 0) {
      if (this.codes[this.table[at]] === code) return this.table[at]
      at = (at + 1) & this.mask
    }
    this.table[at] = this.note(code)
    if (this.count * 2 > this.table.length) this.rehash()
    return this.count - 1
  }

  private note(code: number): number {
    if (this.count === this.codes.length) this.codes = twice(this.codes)
    this.codes[this.count] = code
    return this.count++
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
