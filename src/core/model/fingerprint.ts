import type { Model } from './model'

/**
 * A number that two models share only if they are the same, as far as 53 bits can tell: for noticing that a run belongs
 * to an older version. Names do not count.
 * Method: FNV-1a over the words of all arrays (Fowler, Noll & Vo 1991), twice with different beginnings.
 */
export function modelFingerprint(model: Model): number {
  const words: Words = { low: 0x811c9dc5, high: 0x01234567 }
  take(words, model.rowStart)
  take(words, model.rowAction)
  take(words, model.outcomeStart)
  take(words, model.outcomeState)
  take(words, model.outcomeProbability)
  take(words, model.outcomeReward)
  if (model.outcomeDiscount) take(words, model.outcomeDiscount)
  take(words, model.ending)
  take(words, model.startState)
  take(words, model.startProbability)
  take(words, model.observation)
  return (words.high >>> 11) * 4294967296 + (words.low >>> 0)
}

/** A fingerprint for people: `1F3A-22C4-09B1-7E`. */
export function fingerprintText(fingerprint: number): string {
  return fingerprint
    .toString(16)
    .toUpperCase()
    .padStart(14, '0')
    .replace(/(.{4})(?=.)/g, '$1-')
}

interface Words {
  low: number
  high: number
}

function take(words: Words, array: Int32Array | Float64Array | Uint8Array): void {
  const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength)
  // Local numbers stay in registers: models of a million outcomes have tens of megabytes.
  let { low, high } = words
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    low = Math.imul(low ^ byte, 0x01000193)
    high = Math.imul(high ^ byte, 0x01000193) ^ (low >>> 13)
  }
  words.low = low
  words.high = high
}
