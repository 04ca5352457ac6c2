import fc from 'fast-check'
import { expect, it } from 'vitest'
import { histogramOf } from './histogram'

it('has a bar for each of a few different values, with where it came first', () => {
  expect(histogramOf([2, -1, 2, 2, NaN])).toEqual([
    { low: -1, high: -1, count: 1, first: 1 },
    { low: 2, high: 2, count: 3, first: 0 },
  ])
  expect(histogramOf([])).toEqual([])
  expect(histogramOf([NaN, Infinity])).toEqual([])
})

it('has bars on round ends for many', () => {
  const bars = histogramOf(
    Array.from({ length: 100 }, (_, i) => i / 10),
    5,
  )
  expect(bars.map(({ low, high }) => [low, high])).toEqual([
    [0, 2],
    [2, 4],
    [4, 6],
    [6, 8],
    [8, 10],
  ])
  expect(bars.map(({ count }) => count)).toEqual([20, 20, 20, 20, 20])
})

it('has a single bar for values that hardly differ', () => {
  const next = 1 + Number.EPSILON
  expect(histogramOf([0, 5e-324, 1e-323], 2)).toEqual([{ low: 0, high: 1e-323, count: 3, first: 0 }])
  expect(histogramOf([next, 1, 1 + 2 * Number.EPSILON], 2)).toEqual([
    { low: 1, high: 1 + 2 * Number.EPSILON, count: 3, first: 0 },
  ])
})

it('begins below a value that lies just below the edge of a bar', () => {
  const bars = histogramOf([2.0000000000020006, -5e-324, 0], 2)
  expect(bars.map(({ low, count }) => [low, count])).toEqual([
    [-2, 1],
    [0, 1],
    [2, 1],
  ])
})

it('counts every value once, in the bar that it lies in', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 80 }),
      fc.integer({ min: 2, max: 12 }),
      (values, bars) => {
        const found = histogramOf(values, bars)
        expect(found.length).toBeLessThanOrEqual(bars + 2)
        expect(found.reduce((sum, { count }) => sum + count, 0)).toBe(values.length)
        for (const { low, high, count, first } of found) {
          if (!count) continue
          expect(values[first] >= low && values[first] <= high).toBe(true)
          const last = high === found[found.length - 1].high
          const inside = values.filter((value) =>
            low === high ? value === low : value >= low && (value < high || (last && value === high)),
          )
          expect(count).toBe(inside.length)
        }
      },
    ),
  )
})
