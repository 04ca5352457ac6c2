import { expect, it } from 'vitest'
import { EpisodeLog } from '../../core/learn/episode-log'
import { learnChart, type LearnStrip } from './learn-chart'
import { planChart, type PlanStrip } from './plan-chart'

const inks = () => '#000'

interface Option {
  xAxis: { min: number; max: number }
  yAxis: { min: number; max: number; name: string }
  series: { data: [number, number][]; markLine?: { data: { xAxis?: number; yAxis?: number }[] } }[]
}

interface LearnOption extends Omit<Option, 'yAxis' | 'series'> {
  yAxis: { min: number; max: number; name: string; show?: boolean }[]
  series: (Option['series'][number] & { name: string; yAxisIndex?: number })[]
}

it('draws changes on whole decades, without zeros, thinned but with the last', () => {
  const changes = Array.from({ length: 5000 }, (_, i) => 8 * 0.99 ** i)
  changes.push(0)
  const option = planChart(strip([{ title: 'one', changes, work: [] }], { head: 17 }))(
    inks,
    800,
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
    800,
  ) as unknown as Option
  expect(drawn.series[0].data).toEqual([
    [1, 4],
    [4, 0.5],
  ])
  const steep = planChart(strip([{ title: 'one', changes, work: [] }], { rate: 1e-6 }))(
    inks,
    800,
  ) as unknown as Option
  expect(steep.series[0].data[1][1]).toBeCloseTo(steep.yAxis.min, 9)
  for (const rate of [0, 1])
    expect(
      (planChart(strip([{ title: 'one', changes, work: [] }], { rate }))(inks, 800) as unknown as Option)
        .series,
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
  )(inks, 800) as unknown as Option
  expect(option.series[1].data).toEqual([
    [5, 2],
    [35, 0.5],
    [40, 0.1],
  ])
  expect(option.xAxis.max).toBe(40)
})

it('gives the plot less room where the legend takes more lines', () => {
  const two = strip(
    [
      { title: 'Value iteration', changes: [3, 1], work: [10, 20] },
      { title: 'Modified policy iteration', changes: [2, 1], work: [10, 20] },
    ],
    { rate: 0.9 },
  )
  const top = (width: number) => (planChart(two)(inks, width) as { grid: { top: number } }).grid.top
  expect(top(800)).toBe(24)
  expect(top(460)).toBe(40)
})

it('draws an empty plan', () => {
  const option = planChart(strip([]))(inks, 800) as unknown as Option
  expect(option.series).toEqual([])
  expect(option.yAxis.min).toBeLessThan(option.yAxis.max)
  const begun = planChart(strip([{ title: 'one', changes: [], work: [] }]))(inks, 800) as unknown as Option
  expect(begun.series[0].data).toEqual([])
  expect(option.yAxis.min).toBeLessThan(option.yAxis.max)
})

const learnStrip = (log: EpisodeLog, rest: Partial<LearnStrip> = {}): LearnStrip => ({
  curve: log.curve(100, 10),
  episodes: 1000,
  head: log.count,
  optimum: null,
  optimumTitle: 'optimum',
  marks: null,
  seeds: null,
  rates: [],
  cells: 10,
  ...rest,
})

it('draws returns with the optimum in sight, and names its unit', () => {
  const log = new EpisodeLog(300)
  for (let i = 0; i < 300; i++) log.add(-50 + i / 10, 3, false)
  const option = learnChart(learnStrip(log, { optimum: 12 }))(inks, 800) as unknown as LearnOption
  expect(option.yAxis[0].max).toBeGreaterThan(12)
  expect(option.yAxis[0].min).toBeLessThanOrEqual(-49)
  expect(option.yAxis[0].name).toMatch(/discounted/)
  expect(option.xAxis.max).toBe(300)
  expect(option.series[1].markLine!.data).toMatchObject([{ xAxis: 300 }])
  expect(option.series[2]).toMatchObject({
    name: 'optimum 12',
    data: [
      [0, 12],
      [300, 12],
    ],
  })
  const empty = learnChart(learnStrip(new EpisodeLog(5), { episodes: 5 }))(
    inks,
    800,
  ) as unknown as LearnOption
  expect(empty.yAxis[0].min).toBeLessThan(empty.yAxis[0].max)
  expect(empty.series[1].markLine!.data).toMatchObject([{ xAxis: 0 }])
})

it('draws exploration and learning rate under the same axis, by episodes or by steps', () => {
  const log = new EpisodeLog(100)
  for (let i = 0; i < 100; i++) log.add(1, 3, false)
  const option = learnChart(
    learnStrip(log, {
      marks: {
        title: 'value of the greedy policy',
        episode: Float64Array.of(1, 50),
        value: Float64Array.of(-3, 2),
      },
      rates: [
        { title: 'exploration', schedule: { kind: 'linear', from: 1, to: 0, over: 51, per: 'episode' } },
        { title: 'learning rate', schedule: { kind: 'linear', from: 0.5, to: 0.1, over: 301, per: 'step' } },
        { title: 'by visits', schedule: { kind: 'visits', from: 1, slowness: 1 } },
      ],
    }),
  )(inks, 800) as unknown as LearnOption
  expect(option.series.map(({ name }) => name)).toEqual([
    'discounted return',
    'mean of the last 10',
    'value of the greedy policy',
    'exploration',
    'learning rate',
    'by visits (mean cell)',
  ])
  const [exploration, rate] = option.series.slice(3)
  expect(exploration.yAxisIndex).toBe(1)
  // Episode 1 is played before anything has changed, episode 51 at the floor.
  expect(exploration.data[0]).toEqual([1, 1])
  expect(exploration.data[50]).toEqual([51, 0])
  expect(rate.data[99]).toEqual([100, 0.1])
  expect(option.yAxis[1]).toMatchObject({ show: true, max: 1 })
})

it('draws a rate that drops when exploration is at its floor, and one by visits for a cell with the mean of updates', () => {
  const log = new EpisodeLog(100)
  for (let i = 0; i < 100; i++) log.add(1, 3, false)
  const after = { kind: 'linear', from: 1, to: 0, over: 21, per: 'episode' } as const
  const option = learnChart(
    learnStrip(log, {
      cells: 30,
      rates: [
        { title: 'dropping', schedule: { kind: 'drop', from: 0.5, to: 0.1 }, after },
        { title: 'falling', schedule: { kind: 'visits', from: 1, slowness: 1 } },
      ],
    }),
  )(inks, 800) as unknown as LearnOption
  const [dropping, falling] = option.series.slice(2)
  // In episode 21 twenty are over and exploration has reached its final value.
  expect([19, 20, 99].map((at) => dropping.data[at][1])).toEqual([0.5, 0.1, 0.1])
  // After 300 steps over thirty cells each has been updated ten times: the next one is the eleventh.
  expect(falling.data[99][1]).toBeCloseTo(1 / 11, 12)
})

it('names whose runs a band is of, in the legend too', () => {
  const log = new EpisodeLog(10)
  for (let i = 0; i < 10; i++) log.add(1, 3, false)
  const one = Float64Array.of(1, 2)
  const seeds = {
    title: 'SARSA (rate 0.5)',
    episodes: Float64Array.of(1, 10),
    band: { median: one, lower: one, upper: one },
    size: 30,
    single: { run: 4, means: one },
  }
  const option = learnChart(learnStrip(log, { seeds }))(inks, 800) as unknown as LearnOption
  const names = option.series.map(({ name }) => name)
  expect(names).toContain('30 runs of SARSA (rate 0.5): median, middle half')
  expect(names).toContain('run 4 of SARSA (rate 0.5)')
  const { data } = (option as unknown as { legend: { data: string[] } }).legend
  expect(data).toContain('30 runs of SARSA (rate 0.5): median, middle half')
})
