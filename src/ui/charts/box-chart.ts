import type { EChartsCoreOption } from 'echarts/core'
import { fiveNumbers, meanWithError } from '../../core/compare/run-statistics'
import { formatNumber } from '../../core/formats/number'
import { runName, type Level } from './band-chart'
import { FONT, houseAxes, niceStep, type Inks } from './house'
import { lineLook } from './line-looks'

/** Numbers of many runs of one contestant. */
export interface Box {
  readonly title: string
  /** The number of its look. */
  readonly look: number
  /** [runs] their numbers */
  readonly runs: readonly number[]
  /** [runs] one at the least */
  readonly values: Float64Array
}

/** How far the dots of runs lie beside the middle of their row, at the most; rows are 1 apart. */
const SIDE = 0.16

/** What is used of the interface that custom series draw with. */
interface CustomApi {
  coord(point: readonly number[]): [number, number]
}

/**
 * A row a contestant, from the top: a box from the lower to the upper quartile with the median in it, whiskers to the ends,
 * every run as a dot, and the mean with its 95 % interval as a diamond below the box.
 */
export function boxChart(
  boxes: readonly Box[],
  x: string,
  all: readonly Level[],
): (inks: Inks) => EChartsCoreOption {
  const dots = boxes.flatMap(({ values }) => [...values])
  const must = all.flatMap(({ value, optional }) => (optional ? [] : [value]))
  const ends = [...dots, ...must]
  const [least, most] = [Math.min(...ends), Math.max(...ends)]
  const interval = niceStep((most - least || Math.abs(most) || 1) / 6)
  const low = Math.floor(least / interval + 1e-9) * interval
  const high = Math.max(low + interval, Math.ceil(most / interval - 1e-9) * interval)
  const levels = all.filter(({ value, optional }) => !optional || (value >= low && value <= high))
  return (inks) => {
    const base = houseAxes(inks, { name: '', min: low, max: high }, { type: 'value' })
    return {
      ...base,
      grid: { left: 190, right: 36, top: 34, bottom: 46 },
      xAxis: {
        ...(base.xAxis as object),
        minInterval: undefined,
        interval,
        name: x,
        nameLocation: 'middle',
        nameGap: 28,
        nameTextStyle: { color: inks('ink'), fontSize: 13 },
        axisLabel: {
          color: inks('ink-soft'),
          fontSize: 12,
          hideOverlap: true,
          formatter: (value: number) => formatNumber(value, 3),
        },
        splitLine: { show: true, lineStyle: { color: inks('rule') } },
      },
      yAxis: { type: 'value', inverse: true, min: -0.5, max: boxes.length - 0.5, show: false },
      tooltip: {
        ...(base.tooltip as object),
        trigger: 'item',
        formatter: ({ name, value }: { name: string; value: number[] }) =>
          `${name}: ${formatNumber(value[0], 3)}`,
      },
      series: [
        ...boxes.flatMap((box, row) => seriesOf(box, row, inks)),
        ...levels.map((level) => levelOf(level, boxes.length, inks)),
      ],
    }
  }
}

/** A line from top to bottom, with its name above. */
function levelOf({ title, value }: Level, rows: number, inks: Inks): object {
  return {
    type: 'line',
    name: title,
    data: [{ value: [value, -0.5], label: { show: true } }, { value: [value, rows - 0.5] }],
    symbolSize: 0,
    silent: true,
    label: { show: false, position: 'top', formatter: title, color: inks('ink-soft'), fontSize: 12 },
    lineStyle: { color: inks('ink-soft'), width: 1.25, type: 'dashed' },
    z: 1,
  }
}

function seriesOf(box: Box, row: number, inks: Inks): object[] {
  const { title, look, runs, values } = box
  const { colour, symbol } = lineLook(look)
  const ink = inks(colour)
  const [least, lower, median, upper, most] = fiveNumbers(values)
  const { mean, error } = meanWithError(values)
  return [
    {
      type: 'custom',
      name: title,
      silent: true,
      data: [[median, row]],
      renderItem: (_: unknown, api: CustomApi) => {
        const at = (value: number, side: number) => api.coord([value, row + side])
        const line = (from: number[], to: number[], width: number) => ({
          type: 'line',
          shape: { x1: from[0], y1: from[1], x2: to[0], y2: to[1] },
          style: { stroke: ink, lineWidth: width },
        })
        const [left, top] = at(lower, -0.24)
        const [right, bottom] = at(upper, 0.24)
        return {
          type: 'group',
          children: [
            {
              type: 'text',
              // In the room that is kept for names, at the left of the plot.
              x: 12,
              y: at(median, 0)[1],
              style: {
                text: title,
                fill: inks('ink'),
                fontSize: 13,
                fontFamily: FONT,
                align: 'left',
                verticalAlign: 'middle',
                width: 168,
                overflow: 'break',
              },
            },
            line(at(least, 0), at(lower, 0), 1.25),
            line(at(upper, 0), at(most, 0), 1.25),
            line(at(least, -0.1), at(least, 0.1), 1.25),
            line(at(most, -0.1), at(most, 0.1), 1.25),
            {
              type: 'rect',
              shape: { x: left, y: top, width: Math.max(1, right - left), height: bottom - top },
              style: { fill: inks('sheet'), stroke: ink, lineWidth: 1.5 },
            },
            line(at(median, -0.24), at(median, 0.24), 3),
            line(at(mean - error, 0.34), at(mean + error, 0.34), 2),
          ],
        }
      },
      z: 2,
    },
    {
      type: 'scatter',
      name: title,
      data: runs.map((run, i) => ({
        name: runName(title, run),
        // Spread by the number of the run, the same in every drawing.
        value: [values[i], row + SIDE * (((run * 0.618034) % 1) * 2 - 1)],
      })),
      symbol,
      symbolSize: runs.length > 200 ? 3 : 5,
      itemStyle: { color: ink, opacity: 0.55 },
      z: 3,
    },
    {
      type: 'scatter',
      name: title,
      data: [{ name: `${title}, mean`, value: [mean, row + 0.34] }],
      symbol: 'diamond',
      symbolSize: 9,
      itemStyle: { color: ink },
      z: 4,
    },
  ]
}
