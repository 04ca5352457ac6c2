import { describe, expect, it } from 'vitest'
import { RandomStream } from './generator'

/** The same generator written a second time with big integers and no tricks. */
function* reference(a: bigint, b: bigint, c: bigint): Generator<number> {
  const mask = 0xffffffffn
  let counter = 1n
  for (;;) {
    const sum = (a + b + counter) & mask
    counter = (counter + 1n) & mask
    a = b ^ (b >> 9n)
    b = (c + (c << 3n)) & mask
    c = ((((c << 21n) | (c >> 11n)) & mask) + sum) & mask
    yield Number(sum)
  }
}

function reseedWords(seed: number, stream: number, run: number): [bigint, bigint, bigint] {
  const mix = (x: bigint) => {
    let h = (x + 0x9e3779b9n) & 0xffffffffn
    h = ((h ^ (h >> 16n)) * 0x85ebca6bn) & 0xffffffffn
    h = ((h ^ (h >> 13n)) * 0xc2b2ae35n) & 0xffffffffn
    return h ^ (h >> 16n)
  }
  let hash = BigInt(stream)
  for (const word of [BigInt(seed) & 0xffffffffn, BigInt(seed) >> 32n, BigInt(run)])
    hash = mix(hash ^ mix(word))
  return [hash, mix((hash + 1n) & 0xffffffffn), mix((hash + 2n) & 0xffffffffn)]
}

describe('RandomStream', () => {
  it('gives the numbers of an independent big-integer sfc32, across block borders', () => {
    for (const [seed, run] of [
      [7, 0],
      [2 ** 40 + 3, 5],
    ]) {
      const stream = new RandomStream(seed, 'exploration', run)
      const expected = reference(...reseedWords(seed, 2, run))
      for (let i = 0; i < 20; i++) expected.next()
      for (let i = 0; i < 3000; i++) expect(stream.next() >>> 0).toBe(expected.next().value)
    }
  })

  it('keeps streams, seeds and runs apart', () => {
    const first = [
      new RandomStream(1, 'environment'),
      new RandomStream(1, 'exploration'),
      new RandomStream(1, 'ties'),
      new RandomStream(2, 'environment'),
      new RandomStream(1, 'environment', 1),
    ].map((stream) => stream.next())
    expect(new Set(first).size).toBe(first.length)
  })

  it('is uniform: 60,000 throws of a die stay within a chi-square of 5 degrees at 0.1 %', () => {
    const stream = new RandomStream(11, 'environment')
    const counts = new Array(6).fill(0)
    for (let i = 0; i < 60000; i++) counts[stream.below(6)]++
    const chi = counts.reduce((sum, count) => sum + (count - 10000) ** 2 / 10000, 0)
    expect(chi).toBeLessThan(20.5)
    expect(chi).toBeGreaterThan(0.1)
  })

  it('refuses a seed that is not a whole number', () => {
    expect(() => new RandomStream(0.5, 'ties')).toThrow(/whole number/)
    expect(() => new RandomStream(-1, 'ties')).toThrow(/whole number/)
  })
})
