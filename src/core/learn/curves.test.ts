import { expect, it } from 'vitest'
import { bandOfRuns, quantile } from './curves'
import { EpisodeLog } from './episode-log'

it('takes means and quartiles episode by episode', () => {
  const runs = [1, 2, 3, 4, 5].map((k) => Float64Array.of(k, 10 * k))
  expect(bandOfRuns(runs)).toEqual({ mean: [3, 30], lower: [2, 20], upper: [4, 40] })
  expect(quantile(Float64Array.of(1, 2), 0.25)).toBe(1.25)
  expect(bandOfRuns([Float64Array.of(7)])).toEqual({ mean: [7], lower: [7], upper: [7] })
})

it('keeps rolling means and thins its curve', () => {
  const log = new EpisodeLog(1000)
  expect(log.curve(10, 5).episode.length).toBe(0)
  for (let i = 1; i <= 1000; i++) log.add(i, i % 3 === 0 ? 2 : 1, i % 3 === 0)
  expect(log.rollingMean(999, 10)).toBe(995.5)
  expect(log.rollingMean(1, 10)).toBe(1.5)
  const curve = log.curve(11, 100)
  expect([...curve.episode].slice(0, 2)).toEqual([1, 101])
  expect(curve.episode.at(-1)).toBe(1000)
  expect(curve.mean.at(-1)).toBe(950.5)
  expect(curve.single.at(-1)).toBe(1000)
  // Every third episode takes two steps.
  expect([...curve.steps].slice(0, 2)).toEqual([1, 134])
  expect(log.stepsAfter(1000)).toBe(1333)
  expect(log.lengths[2]).toBe(-2)
  expect(log.firstEnded(1000)).toBe(1)
  const late = new EpisodeLog(5)
  for (const cut of [true, true, false, true]) late.add(0, 4, cut)
  expect([late.firstEnded(2), late.firstEnded(4)]).toEqual([0, 3])
  expect(log.episodesWithin(0)).toBe(0)
  expect(log.episodesWithin(3)).toBe(2)
  expect(log.episodesWithin(4)).toBe(3)
  expect(log.episodesWithin(1e9)).toBe(1000)
})
