import { quantile } from '../learn/curves'
import { RandomStream } from '../random/generator'
import type { LearningRun } from './learning-runs'

/** What is drawn around the middle of a curve. */
export const BANDS = {
  quartiles: { title: 'median and quartiles', hint: 'Half of the runs lie in the band.' },
  interval: {
    title: 'mean and 95 % interval',
    hint: 'The mean over the runs, with 1.96 standard errors of it to either side.',
  },
} as const
export type BandKind = keyof typeof BANDS

/** A curve with its band; all [points], NaN where no run had come so far. */
export interface Band {
  readonly middle: Float64Array
  readonly low: Float64Array
  readonly high: Float64Array
}

/** The mean of so many points up to each one; of fewer near the beginning. */
export function rolling(curve: Float64Array, points: number): Float64Array {
  if (points <= 1) return curve
  let sum = 0
  return curve.map((value, i) => {
    sum += value
    if (i >= points) sum -= curve[i - points]
    return sum / Math.min(points, i + 1)
  })
}

/** Many runs at each point, over those that were still going. @param curves  each [points], all equally long */
export function bandOver(curves: readonly Float64Array[], kind: BandKind): Band {
  const points = curves[0]?.length ?? 0
  const band = {
    middle: new Float64Array(points).fill(NaN),
    low: new Float64Array(points).fill(NaN),
    high: new Float64Array(points).fill(NaN),
  }
  for (let i = 0; i < points; i++) {
    const column = Float64Array.from(curves, (curve) => curve[i]).filter((value) => !Number.isNaN(value))
    if (column.length === 0) continue
    if (kind === 'quartiles') {
      column.sort()
      band.middle[i] = quantile(column, 0.5)
      band.low[i] = quantile(column, 0.25)
      band.high[i] = quantile(column, 0.75)
    } else {
      const { mean, error } = meanWithError(column)
      band.middle[i] = mean
      band.low[i] = mean - error
      band.high[i] = mean + error
    }
  }
  return band
}

/** The mean, and 1.96 standard errors of it; 0 for a single number. */
export function meanWithError(numbers: Float64Array): { readonly mean: number; readonly error: number } {
  const mean = numbers.reduce((sum, value) => sum + value, 0) / numbers.length
  if (numbers.length < 2) return { mean, error: 0 }
  const squares = numbers.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  return { mean, error: 1.96 * Math.sqrt(squares / (numbers.length - 1) / numbers.length) }
}

/** Minimum, lower quartile, median, upper quartile, maximum. @param numbers  one at the least */
export function fiveNumbers(numbers: Float64Array): readonly [number, number, number, number, number] {
  const sorted = numbers.slice().sort()
  const at = (part: number) => quantile(sorted, part)
  return [at(0), at(0.25), at(0.5), at(0.75), at(1)]
}

/** What a run is judged by, each once. */
export const SCORES = {
  mean: { title: 'mean return of the whole run', of: (run: LearningRun) => run.mean },
  late: { title: 'mean return of the last tenth', of: (run: LearningRun) => run.late },
  exact: { title: 'exact value of the learned policy', of: (run: LearningRun) => run.exact ?? NaN },
} as const
export type ScoreId = keyof typeof SCORES
export const SCORE_IDS = Object.keys(SCORES) as ScoreId[]

/** How one contestant does against another, run by run: both met the same random numbers. */
export interface RunDifference {
  /** Runs that both of them have a score of. */
  readonly runs: number
  /** In how many of them the first has the larger score; equal ones count for neither. */
  readonly better: number
  readonly worse: number
  readonly mean: number
  /** The 95 % interval of that mean, from resampled runs. */
  readonly low: number
  readonly high: number
  /**
   * About how many runs it takes to tell the two apart: as many as make 1.96 standard errors smaller than the difference.
   * Infinite where there is none.
   */
  readonly needed: number
}

/**
 * The best of several groups of runs by their mean score, and those that cannot be told from it: whose interval of the
 * difference contains 0. @returns null where there is no score
 */
export function bestOf(
  groups: readonly (readonly LearningRun[])[],
  score: ScoreId,
): { readonly best: number; readonly alike: readonly number[] } | null {
  const means = groups.map((runs) => {
    const known = Float64Array.from(runs, SCORES[score].of).filter((value) => !Number.isNaN(value))
    return known.length ? meanWithError(known).mean : -Infinity
  })
  const best = means.indexOf(Math.max(...means))
  if (best < 0 || means[best] === -Infinity) return null
  const alike = groups.flatMap((runs, i) => {
    if (i === best || means[i] === -Infinity) return []
    const difference = differenceOf(groups[best], runs, score)
    // One run tells nothing apart.
    return !difference || difference.low <= 0 ? [i] : []
  })
  return { best, alike }
}

/** Resamples of the runs by which an interval is told. */
const RESAMPLES = 10_000

/**
 * The paired difference of two contestants. The interval is that of the percentile bootstrap (Efron 1979; Efron &
 * Tibshirani 1993, chapter 13), from a stream of its own, so that it is always the same.
 * @returns null where fewer than two runs can be compared
 */
export function differenceOf(
  one: readonly LearningRun[],
  other: readonly LearningRun[],
  score: ScoreId,
): RunDifference | null {
  const { of } = SCORES[score]
  const others = new Map(other.map((run) => [run.run, of(run)]))
  const differences = Float64Array.from(
    one.flatMap((run) => {
      const difference = of(run) - (others.get(run.run) ?? NaN)
      return Number.isNaN(difference) ? [] : [difference]
    }),
  )
  const runs = differences.length
  if (runs < 2) return null
  const stream = new RandomStream(1, 'method')
  const means = Float64Array.from({ length: RESAMPLES }, () => {
    let sum = 0
    for (let i = 0; i < runs; i++) sum += differences[stream.below(runs)]
    return sum / runs
  }).sort()
  const slack = 1e-9
  const mean = differences.reduce((sum, difference) => sum + difference, 0) / runs
  const variance = differences.reduce((sum, difference) => sum + (difference - mean) ** 2, 0) / (runs - 1)
  return {
    runs,
    better: differences.filter((difference) => difference > slack).length,
    worse: differences.filter((difference) => difference < -slack).length,
    mean,
    needed: Math.max(2, Math.ceil((1.96 * 1.96 * variance) / (mean * mean))),
    low: quantile(means, 0.025),
    high: quantile(means, 0.975),
  }
}
