import { exponential } from './exponential'

const LN2 = Math.LN2

/**
 * The natural logarithm of a number above 0, the same bits on every machine: engines may round their own differently.
 *
 * Method: halved or doubled into 0.7 … 1.4, then Halley's iteration on e^y = x from the first term of the series of
 * the inverse hyperbolic tangent. Error within a few units of 1e-16, times the size of the answer.
 */
export function logarithm(x: number): number {
  if (!(x > 0)) return NaN
  if (x === Infinity) return Infinity
  let part = x
  let doublings = 0
  for (; part >= 1.4; part /= 2) doublings++
  for (; part < 0.7; part *= 2) doublings--
  let y = (2 * (part - 1)) / (part + 1)
  for (let i = 0; i < 3; i++) {
    const power = exponential(y)
    y += (2 * (part - power)) / (part + power)
  }
  return y + doublings * LN2
}
