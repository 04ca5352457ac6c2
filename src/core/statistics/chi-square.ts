import { exponential } from '../random/exponential'

/** ln Γ(x) for x > 0 (Lanczos 1964, with g = 7 and nine terms): about 15 digits. */
export function logGamma(x: number): number {
  const coefficients = [
    676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406, 12.507343278686905,
    -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
  ]
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x)
  const z = x - 1
  const sum = coefficients.reduce((total, c, i) => total + c / (z + i + 1), 0.9999999999998099)
  const t = z + 7.5
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum)
}

/**
 * The chance that a chi-square variable is at least x: the upper incomplete gamma function Q(k / 2, x / 2), by its series
 * below and by its continued fraction above (Abramowitz & Stegun 1964, 6.5.29 and 6.5.31).
 * @param k  degrees of freedom, above 0
 */
export function chiSquareTail(x: number, k: number): number {
  if (!(x > 0)) return 1
  const [a, z] = [k / 2, x / 2]
  const scale = exponential(-z + a * Math.log(z) - logGamma(a))
  if (z < a + 1) {
    let term = 1 / a
    let sum = term
    for (let n = 1; n < 10_000 && term > sum * 1e-17; n++) {
      term *= z / (a + n)
      sum += term
    }
    return Math.max(0, 1 - sum * scale)
  }
  // Evaluated by the method of Lentz (1976).
  const tiny = 1e-300
  let b = z + 1 - a
  let c = 1 / tiny
  let d = 1 / b
  let h = d
  for (let n = 1; n < 10_000; n++) {
    const an = -n * (n - a)
    b += 2
    d = 1 / orTiny(an * d + b, tiny)
    c = orTiny(b + an / c, tiny)
    const factor = d * c
    h *= factor
    if (Math.abs(factor - 1) < 1e-15) break
  }
  return scale * h
}

function orTiny(value: number, tiny: number): number {
  return Math.abs(value) < tiny ? tiny : value
}

/** Cells with less expected in them are put together: the approximation is not for them. */
const LEAST_EXPECTED = 10

/**
 * Likelihood ratio test of counts against chances (G test; Sokal & Rohlf 1981, section 17.2): how likely counts at least
 * so far from what is declared are.
 * @param chances  that sum to 1
 * @returns null where too little is expected to be told apart
 */
export function gTest(counts: ArrayLike<number>, chances: ArrayLike<number>): number | null {
  let total = 0
  for (let i = 0; i < counts.length; i++) total += counts[i]
  let statistic = 0
  let cells = 0
  let [rareCount, rareChance] = [0, 0]
  const add = (count: number, expected: number) => {
    cells++
    if (count > 0) statistic += 2 * count * Math.log(count / expected)
  }
  for (let i = 0; i < counts.length; i++) {
    if (total * chances[i] >= LEAST_EXPECTED) add(counts[i], total * chances[i])
    else {
      rareCount += counts[i]
      rareChance += chances[i]
    }
  }
  if (total * rareChance >= LEAST_EXPECTED) add(rareCount, total * rareChance)
  return cells < 2 ? null : chiSquareTail(Math.max(0, statistic), cells - 1)
}
