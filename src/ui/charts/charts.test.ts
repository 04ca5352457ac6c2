import { expect, it } from 'vitest'
import { EpisodeLog } from '../../core/learn/episode-log'
import { learnChart } from './learn-chart'
import { planChart, type PlanStrip } from './plan-chart'

const inks = () => '#000'

interface Option {
  xAxis: { min: number; max: number }
  yAxis: { min: number; max: number; name: string }
  series: { data: [number, number][]; markLine?: { data: { xAxis?: number; yAxis?: number }[] } }[]
}

it('draws changes on whole decades, without zeros, thinned but with the last', () => {
  const changes = Array.from({ length: 5000 }, (_, i) => 8 * 0.99 ** i)
  changes.push(0)
  const option = planChart(strip([{ title: 'one', changes, work: [] }], { head: 17 }))(
    inks,
  ) as unknown as Option
  const { data, markLine } = option.series[0]
  expect(data.length).toBeLessThan(900)
  expect(data[0]).toEqual([1, 8])
  expect(data.every(([, change]) => change > 0)).toBe(true)
  expect(option.yAxis.max).toBe(10)
  expect(option.yAxis.min).toBeLessThanOrEqual(data.at(-1)![1])
  expect(markLine!.data).toEqual([{ xAxis: 17 }])
})

const strip = (curves: PlanStrip['curves'], part: Partial<PlanStrip> = {}): PlanStrip => ({
  curves,
  along: 'sweep',
  head: 0,
  rate: null,
  ...part,
})

it('draws the rate that theory promises as a straight line from the first change, not below the axis', () => {
  const changes = [4, 1, 0.25, 0.0625]
  const drawn = planChart(strip([{ title: 'one', changes, work: [] }], { rate: 0.5 }))(
    inks,
  ) as unknown as Option
  expect(drawn.series[0].data).toEqual([
    [1, 4],
    [4, 0.5],
  ])
  const steep = planChart(strip([{ title: 'one', changes, work: [] }], { rate: 1e-6 }))(
    inks,
  ) as unknown as Option
  expect(steep.series[0].data[1][1]).toBeCloseTo(steep.yAxis.min, 9)
  for (const rate of [0, 1])
    expect(
      (planChart(strip([{ title: 'one', changes, work: [] }], { rate }))(inks) as unknown as Option).series,
    ).toHaveLength(1)
})

it('lays two plans over the backups they took', () => {
  const option = planChart(
    strip(
      [
        { title: 'one', changes: [3, 1], work: [10, 20] },
        { title: 'other', changes: [2, 0.5, 0.1], work: [5, 35, 40] },
      ],
      { along: 'backups', head: 20 },
    ),
  )(inks) as unknown as Option
  expect(option.series[1].data).toEqual([
    [5, 2],
    [35, 0.5],
    [40, 0.1],
  ])
  expect(option.xAxis.max).toBe(40)
})

it('draws an empty plan', () => {
  const option = planChart(strip([]))(inks) as unknown as Option
  expect(option.series).toEqual([])
  expect(option.yAxis.min).toBeLessThan(option.yAxis.max)
  const begun = planChart(strip([{ title: 'one', changes: [], work: [] }]))(inks) as unknown as Option
  expect(begun.series[0].data).toEqual([])
  expect(option.yAxis.min).toBeLessThan(option.yAxis.max)
})

it('draws returns with the optimum in sight, and names its unit', () => {
  const log = new EpisodeLog(300)
  for (let i = 0; i < 300; i++) log.add(-50 + i / 10)
  const option = learnChart(log.curve(100, 10), 1000, 12)(inks) as unknown as Option
  expect(option.yAxis.max).toBeGreaterThan(12)
  expect(option.yAxis.min).toBeLessThanOrEqual(-49)
  expect(option.yAxis.name).toMatch(/discounted/)
  expect(option.xAxis.max).toBe(300)
  expect(option.series[1].markLine!.data).toEqual([{ yAxis: 12 }])
  const empty = learnChart(new EpisodeLog(5).curve(100, 10), 5, null)(inks) as unknown as Option
  expect(empty.yAxis.min).toBeLessThan(empty.yAxis.max)
  expect(empty.series[1].markLine).toBeUndefined()
})
