import { exponential } from '../../random/exponential'
import { normalBelow } from '../../random/normal'

/** What a chance can come out as, and how likely each is: above 0, in sum 1 within 1e-12. */
export interface Pmf {
  readonly values: readonly number[]
  readonly chances: readonly number[]
}

/** The bounds of a truncation; a side that is not given is undefined. */
export interface Cut {
  readonly low?: number
  readonly high?: number
}

/** A parameter out of its range, in plain words. */
export interface PmfFault {
  readonly cause: string
  readonly remedy: string
}

export interface DistributionKind {
  readonly form: string
  readonly says: string
  /** The names of the parameters, as messages call them. */
  readonly parameters: readonly string[]
  readonly result: 'whole' | 'truth'
  /** Whether `up to n` and `from a to b` may follow, or must. */
  readonly cut: 'none' | 'allowed' | 'needed'
  /** Bounds of the outcomes, from the least and the greatest value of each parameter. */
  bounds(low: readonly number[], high: readonly number[]): readonly [number, number]
  make(parameters: readonly number[], cut: Cut): Pmf | PmfFault
}

/** Outcomes of one chance at the most. */
export const OUTCOME_LIMIT = 2000
/** Without `up to`, a tail less likely than this is put on the value before it. */
export const TAIL = 1e-12
const MEAN_LIMIT = 500

export function isPmfFault(result: Pmf | PmfFault): result is PmfFault {
  return 'cause' in result
}

const isChance = (p: number) => p >= 0 && p <= 1

/** The distributions of the language, each once. Truncation: what falls outside is put on the nearest value inside. */
export const DISTRIBUTIONS: Readonly<Record<string, DistributionKind>> = {
  poisson: {
    form: 'poisson(mean) up to 15',
    says: 'how many happen when they happen at a steady rate',
    parameters: ['mean'],
    result: 'whole',
    cut: 'allowed',
    bounds: (_, [mean]) => [0, tailPlace(mean)],
    make([mean], cut) {
      if (!(mean >= 0 && mean <= MEAN_LIMIT))
        return { cause: `The mean is ${mean}.`, remedy: `Keep it from 0 to ${MEAN_LIMIT}: max(0, …).` }
      return counted(exponential(-mean), (p, k) => (p * mean) / k, cut)
    },
  },
  geometric: {
    form: 'geometric(chance) up to 20',
    says: 'how many failures come before the first success',
    parameters: ['chance'],
    result: 'whole',
    cut: 'allowed',
    bounds: ([chance]) => [
      0,
      chance > 0 ? Math.ceil(-27.7 / Math.log(1 - Math.min(chance, 0.999))) + 1 : Infinity,
    ],
    make([chance], cut) {
      if (!(chance > 0 && chance <= 1))
        return { cause: `The chance is ${chance}.`, remedy: 'Keep it above 0, up to 1.' }
      return counted(chance, (p) => p * (1 - chance), cut)
    },
  },
  binomial: {
    form: 'binomial(tries, chance)',
    says: 'how many of so many tries succeed',
    parameters: ['number of tries', 'chance'],
    result: 'whole',
    cut: 'allowed',
    bounds: (_, [tries]) => [0, Math.max(0, tries)],
    make([tries, chance], cut) {
      if (!(Number.isInteger(tries) && tries >= 0 && tries <= OUTCOME_LIMIT))
        return {
          cause: `The number of tries is ${tries}.`,
          remedy: `Use a whole number from 0 to ${OUTCOME_LIMIT}.`,
        }
      if (!isChance(chance)) return { cause: `The chance is ${chance}.`, remedy: 'Keep it from 0 to 1.' }
      return cutOff(0, binomial(tries, chance), cut)
    },
  },
  uniform: {
    form: 'uniform(low, high)',
    says: 'each whole number from low to high, all as likely',
    parameters: ['low end', 'high end'],
    result: 'whole',
    cut: 'none',
    bounds: ([low], [, high]) => [low, high],
    make([low, high]) {
      if (!(Number.isInteger(low) && Number.isInteger(high) && low <= high && high - low < OUTCOME_LIMIT))
        return {
          cause: `It goes from ${low} to ${high}.`,
          remedy: `Use whole numbers, the lower first, at most ${OUTCOME_LIMIT} of them.`,
        }
      const count = high - low + 1
      return {
        values: Array.from({ length: count }, (_, i) => low + i),
        chances: new Array<number>(count).fill(1 / count),
      }
    },
  },
  normal: {
    form: 'normal(mean, spread) from 0 to 40',
    says: 'whole numbers around a mean; the chance of k is that of k - 0.5 to k + 0.5',
    parameters: ['mean', 'spread'],
    result: 'whole',
    cut: 'needed',
    bounds: () => [-Infinity, Infinity],
    make([mean, spread], { low = 0, high = 0 }) {
      if (!(spread > 0)) return { cause: `The spread is ${spread}.`, remedy: 'Keep it above 0.' }
      if (!Number.isFinite(mean)) return { cause: `The mean is ${mean}.`, remedy: 'Use a finite number.' }
      const chances: number[] = []
      let below = 0
      for (let k = low; k <= high; k++) {
        const next = k === high ? 1 : normalBelow((k + 0.5 - mean) / spread)
        chances.push(next - below)
        below = next
      }
      return likely(low, chances)
    },
  },
  coin: {
    form: 'coin(chance)',
    says: 'yes with this chance, otherwise no',
    parameters: ['chance'],
    result: 'truth',
    cut: 'none',
    bounds: () => [0, 1],
    make([chance]) {
      if (!isChance(chance)) return { cause: `The chance is ${chance}.`, remedy: 'Keep it from 0 to 1.' }
      return likely(0, [1 - chance, chance])
    },
  },
}

/** Counts from 0: the first chance, and the step from the chance of k - 1 to that of k, until the tail is done. */
function counted(first: number, step: (p: number, k: number) => number, cut: Cut): Pmf | PmfFault {
  const chances: number[] = []
  let p = first
  let left = 1
  for (let k = 0; ; k++) {
    if (k === OUTCOME_LIMIT)
      return {
        cause: `It can come out as more than ${OUTCOME_LIMIT} numbers.`,
        remedy: 'Cut it off: write up to …',
      }
    if (k === cut.high || (cut.high === undefined && left - p < TAIL && k >= 1) || left <= 0) {
      chances.push(Math.max(0, left))
      break
    }
    chances.push(p)
    left -= p
    p = step(p, k + 1)
  }
  return cutOff(0, chances, cut)
}

/** Puts what lies outside a cut on its ends. */
function cutOff(first: number, chances: readonly number[], { low, high }: Cut): Pmf {
  const from = Math.max(low ?? first, -OUTCOME_LIMIT)
  const to = high ?? first + chances.length - 1
  const inside = new Array<number>(Math.max(1, to - from + 1)).fill(0)
  chances.forEach((chance, i) => {
    inside[Math.min(inside.length - 1, Math.max(0, first + i - from))] += chance
  })
  return likely(from, inside)
}

/** Without what cannot happen. */
function likely(first: number, chances: readonly number[]): Pmf {
  const values: number[] = []
  const kept: number[] = []
  chances.forEach((chance, i) => {
    if (chance > 0) {
      values.push(first + i)
      kept.push(chance)
    }
  })
  return { values, chances: kept }
}

/** From the likeliest count both ways, so that nothing underflows; then scaled to 1. */
function binomial(tries: number, chance: number): number[] {
  if (chance === 0 || chance === 1)
    return Array.from({ length: tries + 1 }, (_, k) => (k === tries * chance ? 1 : 0))
  const weights = new Array<number>(tries + 1).fill(0)
  const mode = Math.min(tries, Math.floor((tries + 1) * chance))
  weights[mode] = 1
  const odds = chance / (1 - chance)
  for (let k = mode + 1; k <= tries; k++) weights[k] = (weights[k - 1] * (tries - k + 1) * odds) / k
  for (let k = mode - 1; k >= 0; k--) weights[k] = (weights[k + 1] * (k + 1)) / ((tries - k) * odds)
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  return weights.map((weight) => weight / total)
}

/** A count that a Poisson number exceeds with a chance below TAIL, not much larger than needed. */
function tailPlace(mean: number): number {
  return mean <= MEAN_LIMIT ? Math.ceil(mean + 8 * Math.sqrt(mean) + 16) : Infinity
}
