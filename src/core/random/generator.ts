/** How many numbers a stream makes ahead: the generator's state then stays in registers while it works. */
export const BLOCK = 1024

/** The independent streams of a run: what the world does, whether the agent explores, how ties fall. */
export const STREAMS = { environment: 1, exploration: 2, ties: 3 } as const
export type StreamName = keyof typeof STREAMS

/** 2^-32: turns an unsigned 32-bit number into a fraction of one. */
export const UNIT = 1 / 4294967296

/**
 * A seeded stream of 32-bit random numbers, the only source of chance in the product.
 *
 * The same (seed, name, run) gives the same bits in a page, on the server and in the command line.
 * Method: the small fast counting generator sfc32 (Chris Doty-Humphrey, PractRand, 2010); its four words are
 * set from a hash of seed, name and run, and the first 20 numbers are thrown away.
 *
 * @param seed an integer from 0 to 2^53 - 1
 * @param run  the number of the run, from 0: other runs of the same seed are independent streams
 */
export class RandomStream {
  /**
   * Numbers made ahead, and how many are used. A kernel may take them itself: `prepare`, then read
   * `block[position++]` from locals as long as there are enough for a step, and store the position.
   */
  readonly block = new Int32Array(BLOCK)
  position = BLOCK
  private a: number
  private b: number
  private c: number
  private counter = 1

  constructor(seed: number, name: StreamName, run = 0) {
    if (!Number.isSafeInteger(seed) || seed < 0)
      throw new RangeError(`seed ${seed} is not a whole number from 0`)
    let hash: number = STREAMS[name]
    for (const word of [seed >>> 0, Math.floor(seed / 4294967296), run])
      hash = scramble(hash ^ scramble(word))
    this.a = hash
    this.b = scramble(hash + 1)
    this.c = scramble(hash + 2)
    for (let i = 0; i < 20; i++) this.make(0, 1)
  }

  /** The next number as a signed 32-bit integer; `next() >>> 0` is uniform on 0 … 2^32 - 1. */
  next(): number {
    if (this.position === BLOCK) this.prepare()
    return this.block[this.position++]
  }

  /** Uniform on [0, 1), in steps of 2^-32. */
  uniform(): number {
    return (this.next() >>> 0) * UNIT
  }

  /** Uniform on 0 … count - 1; `count` up to 2^20 (the bias is then below 2^-12 of a unit's chance). */
  below(count: number): number {
    return ((this.next() >>> 0) * UNIT * count) | 0
  }

  /** Moves the numbers that are left to the front and fills the block up behind them. */
  prepare(): void {
    this.block.copyWithin(0, this.position)
    this.make(BLOCK - this.position, BLOCK)
    this.position = 0
  }

  private make(from: number, to: number): void {
    const block = this.block
    let a = this.a
    let b = this.b
    let c = this.c
    let counter = this.counter
    for (let i = from; i < to; i++) {
      const sum = (a + b + counter) | 0
      counter = (counter + 1) | 0
      a = b ^ (b >>> 9)
      b = (c + (c << 3)) | 0
      c = (((c << 21) | (c >>> 11)) + sum) | 0
      block[i] = sum
    }
    this.a = a
    this.b = b
    this.c = c
    this.counter = counter
  }
}

/** Mixes the 32 bits of a word so that neighbouring words share nothing (finaliser of MurmurHash3, Appleby 2011). */
function scramble(word: number): number {
  let h = (word + 0x9e3779b9) | 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return h ^ (h >>> 16)
}
