import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import type { SeedsBand } from '../../core/learn/seeds'
import type { ReturnCurve } from '../../core/learn/episode-log'
import { rateOfVisit, scheduleAt, standsAfter, type Schedule } from '../../core/learn/schedule'
import { houseAxes, houseLegend, legendLines, niceStep, type Inks } from './house'

export interface LearnStrip {
  readonly curve: ReturnCurve
  readonly episodes: number
  /** Where the play head is: finished episodes. */
  readonly head: number
  /** What can be had at best, and what that is called; null where it is not known or hidden. */
  readonly optimum: number | null
  readonly optimumTitle: string
  /** The exact value of the learned policy after some episodes; null where it is hidden. */
  readonly marks: {
    readonly title: string
    readonly episode: Float64Array
    readonly value: Float64Array
  } | null
  /** Many runs with the same settings: median and quartiles, and one of them. */
  readonly seeds: {
    /** The method, and whether the settings are others than those of the run on the board. */
    readonly title: string
    readonly episodes: Float64Array
    readonly band: SeedsBand
    readonly size: number
    readonly single: { readonly run: number; readonly means: Float64Array } | null
  } | null
  /** Drawn under the same axis, each from 0 to 1 of its own largest value. */
  readonly rates: readonly RateCurve[]
  /** Cells of the table: a rate by visits is drawn for a cell that has been updated as often as the mean of them. */
  readonly cells: number
}

/** An exploration or a learning rate over the run. */
export interface RateCurve {
  readonly title: string
  readonly schedule: Schedule
  /** The schedule of exploration, for a rate that drops when that has reached its final value. */
  readonly after?: Schedule
}

/** Room for the name of the upright axis, in pixels. */
const NAME = 120

/** Where the axis along ends; the slider below it ends there too. */
export function learnStripEnd({
  curve,
  episodes,
  seeds,
}: Pick<LearnStrip, 'curve' | 'episodes' | 'seeds'>): number {
  return seeds ? episodes : Math.min(episodes, Math.max(20, niceAbove(curve.episode.at(-1) ?? 0)))
}

/**
 * The return of each episode (thinned), its rolling mean, the exact value of the policy, the optimum as a line, and
 * exploration and learning rate on an axis of their own at the right.
 */
export function learnChart(strip: LearnStrip): (inks: Inks, width: number) => EChartsCoreOption {
  const { curve, head, optimum, optimumTitle, marks, seeds, rates } = strip
  const pairs = (ys: Float64Array) => Array.from(curve.episode, (episode, i) => [episode, ys[i]])
  // The exact value of the first policies may be anything: it does not stretch the axis.
  const { low, high, step } = axisRange(curve, optimum, seeds?.band)
  const values = { valueFormatter: (value: unknown) => formatNumber(Number(value)) }
  const optimumName = optimum === null ? '' : `${optimumTitle} ${formatNumber(optimum)}`
  // What stays the same is no curve.
  const moving = rates.filter(({ schedule }) => schedule.kind !== 'constant')
  const names = [
    `mean of the last ${curve.window}`,
    ...(optimum === null ? [] : [optimumName]),
    ...(marks?.episode.length ? [marks.title] : []),
    ...(seeds ? [bandTitle(seeds), ...(seeds.single ? [singleTitle(seeds)] : [])] : []),
    ...moving.map(rateTitle),
  ]
  const topRate =
    moving.reduce(
      (most, { schedule }) => Math.max(most, schedule.from, 'to' in schedule ? schedule.to : 0),
      0,
    ) || 1
  return (inks, width) => {
    const base = houseAxes(
      inks,
      { name: 'episode', min: 0, max: learnStripEnd(strip) },
      { type: 'value', name: 'discounted return', min: low, max: high, interval: step },
    )
    const line = (name: string, data: number[][], colour: string, rest: object = {}) => ({
      type: 'line',
      name,
      data,
      symbol: 'none',
      lineStyle: { color: colour, width: 2 },
      itemStyle: { color: colour },
      tooltip: values,
      ...rest,
    })
    return {
      ...base,
      grid: { left: 56, right: 44, top: 8 + 16 * legendLines(names, width - NAME - 32), bottom: 34 },
      yAxis: [
        base.yAxis as object,
        {
          ...(base.yAxis as object),
          name: '',
          show: moving.length > 0,
          min: 0,
          max: topRate,
          interval: topRate / 2,
          splitLine: { show: false },
          axisLabel: {
            color: inks('slate'),
            fontSize: 12,
            formatter: (value: number) => formatNumber(value),
          },
        },
      ],
      legend: {
        ...houseLegend(inks, true),
        left: NAME,
        right: 32,
        padding: [5, 0],
        itemGap: 8,
        data: names,
      },
      series: [
        {
          type: 'scatter',
          name: 'discounted return',
          data: pairs(curve.single),
          symbolSize: 3,
          itemStyle: { color: inks('brass-bright'), opacity: 0.45 },
          tooltip: values,
        },
        line(`mean of the last ${curve.window}`, pairs(curve.mean), inks('ink'), {
          markLine: {
            silent: true,
            symbol: 'none',
            animation: false,
            label: { show: false },
            data: [{ xAxis: head, lineStyle: { color: inks('brass-bright'), width: 2, type: 'solid' } }],
          },
        }),
        ...(optimum === null
          ? []
          : [
              line(
                optimumName,
                [
                  [0, optimum],
                  [learnStripEnd(strip), optimum],
                ],
                inks('ink-soft'),
                {
                  silent: true,
                  lineStyle: { color: inks('ink-soft'), width: 1.5, type: 'dashed' },
                  tooltip: { show: false },
                },
              ),
            ]),
        ...(marks?.episode.length
          ? [
              line(
                marks.title,
                Array.from(marks.episode, (episode, i) => [episode, marks.value[i]]),
                inks('spruce'),
                { symbol: 'diamond', symbolSize: 5, lineStyle: { color: inks('spruce'), width: 1.5 } },
              ),
            ]
          : []),
        ...(seeds ? seedsSeries(seeds, inks, line) : []),
        ...moving.map((rate, i) =>
          line(
            rateTitle(rate),
            Array.from(curve.episode, (episode, at) => [
              episode,
              rateIn(rate, episode - 1, curve.steps[at], strip.cells),
            ]),
            inks('slate'),
            {
              yAxisIndex: 1,
              lineStyle: { color: inks('slate'), width: 1.25, type: i ? 'dotted' : 'dashed' },
            },
          ),
        ),
      ],
    }
  }
}

type LineOf = (name: string, data: number[][], colour: string, rest?: object) => object

function bandTitle({ size, title }: Pick<NonNullable<LearnStrip['seeds']>, 'size' | 'title'>): string {
  return `${size} runs of ${title}: median, middle half`
}

function singleTitle({ single, title }: NonNullable<LearnStrip['seeds']>): string {
  return `run ${single!.run} of ${title}`
}

function rateTitle({ title, schedule }: RateCurve): string {
  return schedule.kind === 'visits' ? `${title} (mean cell)` : title
}

/** The rate in an episode, from 0, before which so many steps were taken. */
export function rateIn(
  { schedule, after }: RateCurve,
  episode: number,
  steps: number,
  cells: number,
): number {
  const countOf = (each: Schedule) => ('per' in each && each.per === 'step' ? steps : episode)
  switch (schedule.kind) {
    case 'visits':
      return rateOfVisit(schedule, 1 + steps / Math.max(1, cells))
    case 'drop':
      return after && countOf(after) >= standsAfter(after) ? schedule.to : schedule.from
    default:
      return scheduleAt(schedule, countOf(schedule))
  }
}

/** The quartiles as a band, the median in it, and one run if asked for. */
function seedsSeries(seeds: NonNullable<LearnStrip['seeds']>, inks: Inks, line: LineOf): object[] {
  const { episodes, band, single } = seeds
  const points = (ys: Float64Array) =>
    Array.from(episodes, (episode, i) => [episode, ys[i]]).filter(([, y]) => !Number.isNaN(y))
  const edge = {
    lineStyle: { width: 0 },
    stack: 'band',
    stackStrategy: 'all',
    silent: true,
    tooltip: { show: false },
  }
  return [
    line('', points(band.lower), inks('plum'), edge),
    line('', points(band.upper.map((upper, i) => upper - band.lower[i])), inks('plum'), {
      ...edge,
      areaStyle: { color: inks('plum'), opacity: 0.22 },
    }),
    line(bandTitle(seeds), points(band.median), inks('plum'), {
      lineStyle: { color: inks('plum'), width: 1.5 },
    }),
    ...(single
      ? [
          line(singleTitle(seeds), points(single.means), inks('plum'), {
            lineStyle: { color: inks('plum'), width: 1.25, type: 'dotted' },
          }),
        ]
      : []),
  ]
}

/** Ends of an axis on whole steps. */
interface AxisRange {
  readonly low: number
  readonly high: number
  readonly step: number
}

/** Rolling mean, optimum and the middle 96 % of single returns: a few wild episodes do not flatten the curve. */
function axisRange(curve: ReturnCurve, optimum: number | null, band?: SeedsBand): AxisRange {
  const sorted = curve.single.slice().sort()
  const cut = Math.floor(sorted.length * 0.02)
  const seen = [
    ...curve.mean,
    ...sorted.subarray(cut, sorted.length - cut),
    ...(optimum === null ? [] : [optimum]),
    ...(band ? [...band.lower, ...band.upper].filter((value) => !Number.isNaN(value)) : []),
  ]
  if (!seen.length) return { low: -1, high: 1, step: 1 }
  const low = seen.reduce((x, y) => Math.min(x, y), Infinity)
  const high = seen.reduce((x, y) => Math.max(x, y), -Infinity)
  const step = niceStep((high - low || 1) / 3)
  return {
    low: Math.floor(low / step - 0.05) * step,
    high: Math.ceil(high / step + 0.15) * step,
    step,
  }
}

/** Round numbers for the end of the axis, so that it does not move with every episode. */
function niceAbove(count: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, count)))
  return ([1, 2, 3, 5, 10].find((factor) => factor * power >= count) ?? 10) * power
}
