import { quantile } from '../learn/curves'
import { RandomStream } from '../random/generator'
import type { LearningRun } from './learning-runs'
import { scoreOf, scoresOf } from './scores'

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

/** The sum over the episodes of so many points up to each one. @param episodes  of a point */
export function rollingSum(curve: Float64Array, points: number, episodes: number): Float64Array {
  return rolling(curve, points).map((mean, i) => mean * Math.min(points, i + 1) * episodes)
}

/**
 * A curve over episodes as one over steps: at each place the point of the episodes that were under way then.
 * @param steps  [points] those taken by the end of each point; increasing, NaN where the run was over before
 * @param places  in steps, increasing
 */
export function alongSteps(curve: Float64Array, steps: Float64Array, places: Float64Array): Float64Array {
  let point = 0
  return places.map((place) => {
    while (point < steps.length && steps[point] < place) point++
    return point < steps.length && !Number.isNaN(steps[point]) ? curve[point] : NaN
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

/** How one contestant does against another, run by run: both met the same random numbers. */
export interface RunDifference {
  /** Runs that both of them have a score of. */
  readonly runs: number
  /** In how many of them the first has the better score; equal ones count for neither. */
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
  id: string,
): { readonly best: number; readonly alike: readonly number[] } | null {
  const score = scoreOf(id)
  const sign = score.smaller ? -1 : 1
  const means = groups.map((runs) => {
    const known = scoresOf(runs, score)
    return known.length ? sign * meanWithError(known).mean : -Infinity
  })
  const best = means.indexOf(Math.max(...means))
  if (best < 0 || means[best] === -Infinity) return null
  const alike = groups.flatMap((runs, i) => {
    if (i === best || means[i] === -Infinity) return []
    const difference = differenceOf(groups[best], runs, id)
    // One run tells nothing apart.
    return !difference || (sign > 0 ? difference.low <= 0 : difference.high >= 0) ? [i] : []
  })
  return { best, alike }
}

/** Resamples of the runs by which an interval is told. */
const RESAMPLES = 10_000

/**
 * The paired difference of two contestants, run by run. The interval is that of the percentile bootstrap (Efron 1979;
 * Efron & Tibshirani 1993, chapter 13), from a stream of its own, so that it is always the same.
 * @returns null where fewer than two runs can be compared
 */
export function differenceOf(
  one: readonly LearningRun[],
  other: readonly LearningRun[],
  id: string,
): RunDifference | null {
  const { of, smaller = false } = scoreOf(id)
  const others = new Map(other.map((run) => [run.run, of(run)]))
  return pairedRuns(
    one.flatMap((run) => {
      const difference = of(run) - (others.get(run.run) ?? NaN)
      return Number.isNaN(difference) ? [] : [difference]
    }),
    smaller,
  )
}

/** A difference told as how much better the better one is: larger than 0, and its interval from low to high. */
export function advantageOf({ mean, low, high }: RunDifference): {
  readonly mean: number
  readonly low: number
  readonly high: number
} {
  return mean < 0 ? { mean: -mean, low: -high, high: -low } : { mean, low, high }
}

/** How much two scores of the same runs differ, such as those of two stretches of a run. */
export function changeOf(runs: readonly LearningRun[], from: string, to: string): RunDifference | null {
  const [before, after] = [scoreOf(from), scoreOf(to)]
  return pairedRuns(
    runs.flatMap((run) => {
      const difference = after.of(run) - before.of(run)
      return Number.isNaN(difference) ? [] : [difference]
    }),
    after.smaller ?? false,
  )
}

function pairedRuns(all: readonly number[], smaller: boolean): RunDifference | null {
  const differences = Float64Array.from(all)
  const runs = differences.length
  if (runs < 2) return null
  const { mean, low, high } = bootstrapMean(differences)
  const slack = 1e-9
  const above = differences.filter((difference) => difference > slack).length
  const below = differences.filter((difference) => difference < -slack).length
  const variance = differences.reduce((sum, difference) => sum + (difference - mean) ** 2, 0) / (runs - 1)
  return {
    runs,
    better: smaller ? below : above,
    worse: smaller ? above : below,
    mean,
    needed: Math.max(2, Math.ceil((1.96 * 1.96 * variance) / (mean * mean))),
    low,
    high,
  }
}

/** A mean with its 95 % interval from resamples. */
export function bootstrapMean(numbers: Float64Array): {
  readonly mean: number
  readonly low: number
  readonly high: number
} {
  const count = numbers.length
  const stream = new RandomStream(1, 'method')
  const means = Float64Array.from({ length: RESAMPLES }, () => {
    let sum = 0
    for (let i = 0; i < count; i++) sum += numbers[stream.below(count)]
    return sum / count
  }).sort()
  return {
    mean: numbers.reduce((sum, number) => sum + number, 0) / count,
    low: quantile(means, 0.025),
    high: quantile(means, 0.975),
  }
}
