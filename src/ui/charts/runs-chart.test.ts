import { expect, it } from 'vitest'
import type { RunSummary } from '../../core/learn/seeds'
import { runsChart, stackRuns } from './runs-chart'

const run = (number: number, mean: number) => ({ run: number, mean }) as RunSummary
const RUNS = [run(0, 1), run(1, 3), run(2, 1), run(3, 2)]

it('stacks runs with about the same mean, each at its own place', () => {
  expect(stackRuns(RUNS).map(({ run: { run: number }, at, above }) => [number, at, above])).toEqual([
    [0, 1, 0],
    [1, 3, 0],
    [2, 1, 1],
    [3, 2, 0],
  ])
  // All alike: one stack.
  expect(stackRuns([run(0, 5), run(1, 5)]).map(({ at, above }) => [at, above])).toEqual([
    [5, 0],
    [5, 1],
  ])
})

it('draws the run on the board and the one that is shown in their own colours, and says their true means', () => {
  const option = runsChart(RUNS, 0, 3)((colour) => String(colour)) as unknown as {
    series: { data: { name: string; value: number[]; itemStyle: { color: string } }[] }[]
  }
  expect(
    option.series[0].data.map(({ name, value, itemStyle }) => [name, value[2], itemStyle.color]),
  ).toEqual([
    ['0', 1, 'brass-bright'],
    ['1', 3, 'slate'],
    ['2', 1, 'slate'],
    ['3', 2, 'plum'],
  ])
})
