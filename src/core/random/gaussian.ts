import type { RandomStream } from './generator'
import { logarithm } from './logarithm'

/**
 * A standard normal number from a stream, the same bits on every machine.
 * Method: the polar form (Marsaglia & Bray 1964); of each pair the second number is not used, so that a stream is all
 * there is to remember.
 */
export function gaussian(stream: RandomStream): number {
  for (;;) {
    const x = 2 * stream.uniform() - 1
    const y = 2 * stream.uniform() - 1
    const square = x * x + y * y
    if (square > 0 && square < 1) return x * Math.sqrt((-2 * logarithm(square)) / square)
  }
}
