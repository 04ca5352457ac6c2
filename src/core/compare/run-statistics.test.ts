import { describe, expect, it } from 'vitest'
import { gaussian } from '../random/gaussian'
import { RandomStream } from '../random/generator'
import { emptyRun } from '../testing/runs'
import type { LearningRun } from './learning-runs'
import {
  advantageOf,
  alongSteps,
  bandOver,
  changeOf,
  bestOf,
  differenceOf,
  fiveNumbers,
  meanWithError,
  rolling,
  rollingSum,
} from './run-statistics'

const run = (number: number, mean: number, part: Partial<LearningRun> = {}): LearningRun => ({
  ...emptyRun(number),
  mean,
  ...part,
})

describe('a band over runs', () => {
  const curves = [
    [1, 4],
    [2, 8],
    [6, NaN],
    [3, 6],
  ].map((curve) => Float64Array.from(curve))

  it('is the median with the quartiles, over the runs that were still going', () => {
    const { middle, low, high } = bandOver(curves, 'quartiles')
    expect([...middle]).toEqual([2.5, 6])
    expect([...low]).toEqual([1.75, 5])
    expect([...high]).toEqual([3.75, 7])
  })

  it('is the mean with its interval', () => {
    const { middle, high } = bandOver(curves, 'interval')
    expect(middle[0]).toBe(3)
    // Deviations -2, -1, 3, 0: a variance of 14/3.
    expect(high[0] - 3).toBeCloseTo(1.96 * Math.sqrt(14 / 3 / 4), 12)
    expect(middle[1]).toBe(6)
  })

  it('is nothing where no run has come', () => {
    expect([...bandOver([Float64Array.of(NaN)], 'interval').middle]).toEqual([NaN])
    expect(bandOver([], 'quartiles').middle).toHaveLength(0)
  })
})

it('a rolling mean is over the points so far, and then over so many', () => {
  const curve = Float64Array.of(2, 4, 6, 8, NaN)
  expect([...rolling(curve, 2)]).toEqual([2, 3, 5, 7, NaN])
  expect([...rolling(curve, 9)]).toEqual([2, 3, 4, 5, NaN])
  expect(rolling(curve, 1)).toBe(curve)
  // Of five episodes a point.
  expect([...rollingSum(curve, 2, 5)]).toEqual([10, 30, 50, 70, NaN])
})

it('five numbers say how runs are spread', () => {
  expect(fiveNumbers(Float64Array.of(5, 1, 3, 2, 4))).toEqual([1, 2, 3, 4, 5])
  expect(fiveNumbers(Float64Array.of(7))).toEqual([7, 7, 7, 7, 7])
})

describe('the difference of two contestants', () => {
  it('is that of their runs, one by one', () => {
    const one = [run(0, 3), run(1, 5), run(2, 4), run(7, 99)]
    const other = [run(2, 1), run(0, 4), run(1, 1)]
    const difference = differenceOf(one, other, 'mean')!
    expect(difference).toMatchObject({ runs: 3, better: 2, worse: 1, mean: 2 })
    expect(difference.low).toBeGreaterThanOrEqual(-1)
    expect(difference.high).toBeLessThanOrEqual(4)
    // Differences -1, 4, 3: a variance of 7, so that 1.96² x 7 / 2² runs are needed.
    expect(difference.needed).toBe(7)
    expect(differenceOf(one, other, 'mean')).toEqual(difference)
    expect(differenceOf(other, one, 'mean')!.mean).toBe(-2)
  })

  it('is not told of a single run, nor where there is no score', () => {
    expect(differenceOf([run(0, 1)], [run(0, 2)], 'mean')).toBeNull()
    expect(differenceOf([run(0, 1), run(1, 2)], [run(0, 2), run(1, 2)], 'exact')).toBeNull()
  })

  it('its interval covers the truth about as often as it says', () => {
    const stream = new RandomStream(4, 'method')
    const repeats = process.env.LONG ? 1000 : 120
    let covered = 0
    for (let i = 0; i < repeats; i++) {
      const one = Array.from({ length: 30 }, (_, k) => run(k, 1 + gaussian(stream)))
      const other = Array.from({ length: 30 }, (_, k) => run(k, 0))
      const { low, high } = differenceOf(one, other, 'mean')!
      if (low <= 1 && 1 <= high) covered++
    }
    // The percentile bootstrap of 30 runs covers a little less than 95 %; four standard errors of the count besides.
    const slack = 4 * Math.sqrt((0.95 * 0.05) / repeats)
    expect(covered / repeats).toBeGreaterThan(0.93 - slack)
    expect(covered / repeats).toBeLessThanOrEqual(Math.min(1, 0.95 + slack))
  })
})

it('the best of several, and those that are not told from it', () => {
  const group = (means: number[]) => means.map((mean, i) => run(i, mean))
  const groups = [
    group([1, 2, 1, 2]),
    group([5, 6, 5, 7]),
    group([6, 5, 4, 7]),
    group([]),
    group([0, 9, 0, 9]),
  ]
  expect(bestOf(groups, 'mean')).toEqual({ best: 1, alike: [2, 4] })
  // A single run each tells nothing apart.
  expect(bestOf([group([3]), group([8]), group([])], 'mean')).toEqual({ best: 1, alike: [0] })
  expect(bestOf([group([])], 'mean')).toBeNull()
  expect(bestOf([], 'mean')).toBeNull()
})

it('the mean with its error is worked out by hand', () => {
  expect(meanWithError(Float64Array.of(1, 3))).toEqual({ mean: 2, error: 1.96 })
  expect(meanWithError(Float64Array.of(5))).toEqual({ mean: 5, error: 0 })
})

it('a curve over steps is that of the episodes that were under way then', () => {
  const curve = Float64Array.of(5, 6, 7, NaN)
  const steps = Float64Array.of(10, 12, 40, NaN)
  expect([...alongSteps(curve, steps, Float64Array.of(1, 10, 11, 30, 40, 41))]).toEqual([5, 5, 6, 7, 7, NaN])
})

describe('scores of which less is better', () => {
  const timed = (lengths: number[]) =>
    lengths.map((length, i) =>
      run(i, 0, { trials: { episodes: 1, mean: 0, success: null, length, cutOff: 0, measures: {} } }),
    )

  it('have the shortest as the best', () => {
    expect(bestOf([timed([9, 9, 8]), timed([3, 2, 3]), timed([3, 2, 4])], 'length')).toEqual({
      best: 1,
      alike: [2],
    })
    const difference = differenceOf(timed([3, 2, 9]), timed([5, 5, 6]), 'length')!
    expect(difference).toMatchObject({ better: 2, worse: 1 })
    // Shorter by 2, by 3, longer by 3: by two thirds on average.
    const { mean, low, high } = advantageOf(difference)
    expect(mean).toBeCloseTo(2 / 3, 12)
    expect([low, high]).toEqual([-difference.high, -difference.low])
    expect(low).toBeLessThan(high)
  })
})

it('a change is told between two stretches of the same runs', () => {
  const runs = [run(0, 0, { first: 1, next: 4 }), run(1, 0, { first: 2, next: 3 }), run(2, 0, { first: 2 })]
  expect(changeOf(runs, 'first-100', 'next-100')).toMatchObject({ runs: 2, better: 2, worse: 0, mean: 2 })
})
