import { exponential } from './exponential'
import { gaussian } from './gaussian'
import type { RandomStream } from './generator'
import { logarithm } from './logarithm'

/**
 * A number from a gamma distribution of scale 1, the same bits on every machine.
 * Method: Marsaglia & Tsang 2000; shapes below 1 by a power of a uniform number.
 * @param shape  above 0
 */
export function gamma(stream: RandomStream, shape: number): number {
  if (shape < 1) return gamma(stream, shape + 1) * exponential(logarithm(stream.uniform() + 2 ** -33) / shape)
  const d = shape - 1 / 3
  const c = 1 / Math.sqrt(9 * d)
  for (;;) {
    const x = gaussian(stream)
    const root = 1 + c * x
    const v = root * root * root
    if (v <= 0) continue
    const u = stream.uniform() + 2 ** -33
    const square = x * x
    // What passes here passes below too, and costs no logarithms.
    if (u < 1 - 0.0331 * square * square) return d * v
    if (logarithm(u) < 0.5 * x * x + d * (1 - v + logarithm(v))) return d * v
  }
}

/** A number from a beta distribution, 0 to 1. @param a, b  above 0 */
export function beta(stream: RandomStream, a: number, b: number): number {
  const one = gamma(stream, a)
  const other = gamma(stream, b)
  return one + other > 0 ? one / (one + other) : a / (a + b)
}
