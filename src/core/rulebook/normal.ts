import { exponential } from '../random/exponential'

/**
 * The standard normal distribution function, to about 1e-15 absolute, the same bits on every machine.
 * Method: the series of Marsaglia (2004), "Evaluating the normal distribution", section 2.
 */
export function normalBelow(x: number): number {
  if (x > 8.5) return 1
  if (x < -8.5) return 0
  let term = Math.abs(x)
  let sum = term
  for (let i = 3; ; i += 2) {
    term *= (x * x) / i
    if (sum + term === sum) break
    sum += term
  }
  const part = sum * exponential(-0.5 * x * x - 0.91893853320467274178)
  return x < 0 ? 0.5 - part : 0.5 + part
}
