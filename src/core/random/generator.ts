/**
 * The independent streams of a run: what the world does, whether the agent explores, how ties fall, what a random
 * table begins with, what a method draws for itself (what to plan, which of two tables to write), and which problem it is.
 */
export const STREAMS = { environment: 1, exploration: 2, ties: 3, table: 4, method: 5, problem: 6 } as const
export type StreamName = keyof typeof STREAMS

/** 2^-32: turns an unsigned 32-bit number into a fraction of one. */
const UNIT = 1 / 4294967296

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
  /** [4] where the stream is, and all there is to it: copied out and in, it goes on from there. */
  readonly words: Int32Array<ArrayBufferLike>

  /** @param words  where to keep the stream; for kernels that draw from it themselves */
  constructor(seed: number, name: StreamName, run = 0, words: Int32Array = new Int32Array(4)) {
    if (!Number.isSafeInteger(seed) || seed < 0)
      throw new RangeError(`seed ${seed} is not a whole number from 0`)
    this.words = words
    let hash: number = STREAMS[name]
    for (const word of [seed >>> 0, Math.floor(seed / 4294967296), run])
      hash = scramble(hash ^ scramble(word))
    words[0] = hash
    words[1] = scramble(hash + 1)
    words[2] = scramble(hash + 2)
    words[3] = 1
    for (let i = 0; i < 20; i++) this.next()
  }

  /** The next number as a signed 32-bit integer; `next() >>> 0` is uniform on 0 … 2^32 - 1. */
  next(): number {
    const { words } = this
    const b = words[1]
    const c = words[2]
    const counter = words[3]
    const sum = (words[0] + b + counter) | 0
    words[3] = counter + 1
    words[0] = b ^ (b >>> 9)
    words[1] = c + (c << 3)
    words[2] = ((c << 21) | (c >>> 11)) + sum
    return sum
  }

  /** Uniform on [0, 1), in steps of 2^-32. */
  uniform(): number {
    return (this.next() >>> 0) * UNIT
  }

  /** Uniform on 0 … count - 1; `count` up to 2^20 (the bias is then below 2^-12 of a unit's chance). */
  below(count: number): number {
    return ((this.next() >>> 0) * UNIT * count) | 0
  }
}

/** Mixes the 32 bits of a word so that neighbouring words share nothing (finaliser of MurmurHash3, Appleby 2011). */
function scramble(word: number): number {
  let h = (word + 0x9e3779b9) | 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return h ^ (h >>> 16)
}
