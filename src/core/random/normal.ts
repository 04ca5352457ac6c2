import { exponential } from './exponential'

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

/** The standard normal density. */
export function normalDensity(x: number): number {
  return exponential(-0.5 * x * x - 0.91893853320467274178)
}

/**
 * The number below which a standard normal falls with probability `p`, 0 < p < 1; to about 1e-14 where the tails
 * are not extreme. Bisection, then Newton's steps on {@link normalBelow}.
 */
export function normalQuantile(p: number): number {
  let low = -8.5
  let high = 8.5
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2
    if (normalBelow(middle) < p) low = middle
    else high = middle
  }
  let x = (low + high) / 2
  for (let i = 0; i < 3; i++) {
    const slope = normalDensity(x)
    if (slope > 1e-13) x -= (normalBelow(x) - p) / slope
  }
  return x
}
