import { expect, it } from 'vitest'
import { chancyGrid, learned, newLearner } from '../testing/learning'
import { seedsBand, seedsEpisodes, placeAmong, summarise, type RunSummary } from './seeds'

it('asks about episodes from the first to the last', () => {
  expect([...seedsEpisodes(5)]).toEqual([1, 2, 3, 4, 5])
  expect([...seedsEpisodes(1)]).toEqual([1])
  const many = seedsEpisodes(10_000, 11)
  expect(many[0]).toBe(1)
  expect(many[10]).toBe(10_000)
  expect(many[5]).toBe(5001)
})

it('summarises a run by its rolling means, and says where it was over', () => {
  const learner = learned('sarsa', chancyGrid(), { stop: { kind: 'steps', count: 400 }, episodes: 200 })
  const summary = summarise(learner, seedsEpisodes(200), 10, 1.5)
  const { count } = learner.log
  expect(count).toBeLessThan(200)
  const mean = learner.log.returns.slice(count - 10, count).reduce((sum, returned) => sum + returned, 0) / 10
  expect(summary.lastMean).toBeCloseTo(mean, 10)
  expect(summary.mean).toBeCloseTo(
    learner.log.returns.slice(0, count).reduce((sum, returned) => sum + returned, 0) / count,
    10,
  )
  expect(summary.means[count - 1]).toBeCloseTo(mean, 10)
  expect(summary.means[count]).toBeNaN()
  expect(summary.outcome).toBe('stopped')
})

it('tells a policy without a finite value from one that was not evaluated', () => {
  const learner = newLearner('q-learning', chancyGrid(), { episodes: 3 })
  learner.advance(30)
  const of = (exact: number | 'never ends' | null) => summarise(learner, seedsEpisodes(3), 10, exact)
  expect(of('never ends')).toMatchObject({ exact: null, endless: true })
  expect(of(null)).toMatchObject({ exact: null, endless: false })
  expect(of(-2)).toMatchObject({ exact: -2, endless: false })
})

it('takes median and quartiles over the runs still going', () => {
  const run = (number: number, ...means: number[]): RunSummary => ({
    run: number,
    means: Float64Array.from(means),
    mean: means[0],
    lastMean: means.at(-1)!,
    exact: number,
    endless: false,
    steps: 1,
    episodes: 2,
    outcome: 'done',
  })
  const runs = [run(0, 1, 5), run(1, 2, NaN), run(2, 3, 7), run(3, 4, NaN), run(4, 5, 6)]
  const band = seedsBand(runs)
  expect([...band.median]).toEqual([3, 6])
  expect([...band.lower]).toEqual([2, 5.5])
  expect([...band.upper]).toEqual([4, 6.5])
  expect(runs.map((each) => placeAmong(each, runs, ({ mean }) => mean))).toEqual([5, 4, 3, 2, 1])
  expect(runs.map((each) => placeAmong(each, runs, ({ run: n }) => Math.min(n, 3)))).toEqual([5, 4, 3, 1, 1])
  expect(seedsBand([]).median.length).toBe(0)
})
