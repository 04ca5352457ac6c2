import { expect, it } from 'vitest'
import { EpisodeLog } from '../../core/learn/episode-log'
import { learnChart } from './learn-chart'
import { planChart } from './plan-chart'

const inks = () => '#000'

interface Option {
  xAxis: { min: number; max: number }
  yAxis: { min: number; max: number; name: string }
  series: { data: [number, number][]; markLine?: { data: { xAxis?: number; yAxis?: number }[] } }[]
}

it('draws changes on whole decades, without zeros, thinned but with the last', () => {
  const changes = Array.from({ length: 5000 }, (_, i) => 8 * 0.99 ** i)
  changes.push(0)
  const option = planChart(changes, 17)(inks) as unknown as Option
  const { data, markLine } = option.series[0]
  expect(data.length).toBeLessThan(900)
  expect(data[0]).toEqual([1, 8])
  expect(data.every(([, change]) => change > 0)).toBe(true)
  expect(option.yAxis.max).toBe(10)
  expect(option.yAxis.min).toBeLessThanOrEqual(data.at(-1)![1])
  expect(markLine!.data).toEqual([{ xAxis: 17 }])
})

it('draws an empty plan', () => {
  const option = planChart([], 0)(inks) as unknown as Option
  expect(option.series[0].data).toEqual([])
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
