import type { Model } from './model'

/**
 * A number that two models share only if they are the same, as far as 53 bits can tell: for noticing that a run belongs
 * to an older version. Names do not count.
 * Method: FNV-1a over the words of all arrays (Fowler, Noll & Vo 1991), twice with different beginnings.
 */
export function modelFingerprint(model: Model): number {
  let low = 0x811c9dc5
  let high = 0x01234567
  const take = (array: Int32Array | Float64Array | Uint8Array) => {
    const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength)
    for (const byte of bytes) {
      low = Math.imul(low ^ byte, 0x01000193)
      high = Math.imul(high ^ byte, 0x01000193) ^ (low >>> 13)
    }
  }
  take(model.rowStart)
  take(model.rowAction)
  take(model.outcomeStart)
  take(model.outcomeState)
  take(model.outcomeProbability)
  take(model.outcomeReward)
  if (model.outcomeDiscount) take(model.outcomeDiscount)
  take(model.ending)
  take(model.startState)
  take(model.startProbability)
  take(model.observation)
  return (high >>> 11) * 4294967296 + (low >>> 0)
}
