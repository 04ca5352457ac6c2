import { expect, it } from 'vitest'
import { scheduleChart, type MovingSchedule } from './schedule-chart'

interface Option {
  xAxis: { max: number; name: string }
  series: { data: [number, number][]; markLine: { data: { xAxis: number }[] } }[]
}
const draw = (schedule: MovingSchedule, episodes: number) =>
  scheduleChart(schedule, episodes)(() => '#000') as unknown as Option

it('draws a schedule over the run, marked where it stands still', () => {
  const linear = { kind: 'linear', from: 1, to: 0.2, over: 51, per: 'episode' } as const
  const { xAxis, series } = draw(linear, 100)
  expect(xAxis).toMatchObject({ max: 100, name: 'episodes' })
  expect(series[0].data[0]).toEqual([0, 1])
  // Half-way down after 25 of 50 changes.
  expect(series[0].data.find(([count]) => count === 25)![1]).toBeCloseTo(0.6, 12)
  expect(series[0].data.at(-1)).toEqual([100, 0.2])
  expect(series[0].markLine.data).toEqual([{ xAxis: 50 }])
})

it('draws steps a little beyond the final value, and no mark that the run never reaches', () => {
  const exponential = { kind: 'exponential', from: 1, to: 0.01, over: 401, per: 'step' } as const
  expect(draw(exponential, 5).xAxis).toMatchObject({ max: 500, name: 'steps' })
  const late = { kind: 'linear', from: 1, to: 0, over: 1000, per: 'episode' } as const
  expect(draw(late, 100).series[0].markLine.data).toEqual([])
})
