import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import type { RunSummary } from '../../core/learn/seeds'
import { houseAxes, type Inks } from './house'

/** Dots side by side over the whole width. */
const COLUMNS = 38

/** A dot of the picture: its run, where it lies along, and how many lie below it. */
interface Dot {
  readonly run: RunSummary
  readonly at: number
  readonly above: number
}

/** Each run as a dot by its mean return; those that lie close stand upon each other. */
export function stackRuns(runs: readonly RunSummary[]): Dot[] {
  const means = runs.map(({ mean }) => mean)
  const low = Math.min(...means)
  const width = Math.max(...means) - low || 1
  const stacks = new Map<number, number>()
  return runs.map((run) => {
    const column = Math.round(((run.mean - low) / width) * COLUMNS)
    const above = stacks.get(column) ?? 0
    stacks.set(column, above + 1)
    return { run, at: low + (column / COLUMNS) * width, above }
  })
}

/**
 * The runs of many seeds by their mean return.
 * @param mine  the number of the run on the board, where it is one of them
 * @param shown  the number of the run that is drawn in the strip
 */
export function runsChart(
  runs: readonly RunSummary[],
  mine: number | null,
  shown: number | null,
): (inks: Inks) => EChartsCoreOption {
  const dots = stackRuns(runs)
  const lowest = Math.min(...dots.map(({ at }) => at))
  const highest = Math.max(...dots.map(({ at }) => at))
  const margin = (highest - lowest || 1) * 0.03
  return (inks) => ({
    ...houseAxes(
      inks,
      { name: '', min: lowest - margin, max: highest + margin },
      { type: 'value', show: false, min: -0.5, max: Math.max(3, ...dots.map(({ above }) => above)) + 0.5 },
    ),
    grid: { left: 12, right: 12, top: 4, bottom: 36 },
    xAxis: {
      type: 'value',
      name: 'mean return of the whole run',
      nameLocation: 'middle',
      nameGap: 20,
      nameTextStyle: { color: inks('ink-soft'), fontSize: 12 },
      min: lowest - margin,
      max: highest + margin,
      interval: highest + margin - (lowest - margin),
      axisLabel: {
        color: inks('ink-soft'),
        fontSize: 12,
        alignMinLabel: 'left',
        alignMaxLabel: 'right',
        formatter: (value: number) => formatNumber(value),
      },
      axisLine: { lineStyle: { color: inks('rule-strong') } },
      axisTick: { show: false },
      splitLine: { show: false },
    },
    tooltip: {
      trigger: 'item',
      backgroundColor: inks('sheet'),
      borderColor: inks('rule-strong'),
      textStyle: { color: inks('ink'), fontSize: 13 },
      formatter: ({ name, value }: { name: string; value: number[] }) =>
        `Run ${name}: mean return ${formatNumber(value[2])}`,
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 8,
        data: dots.map(({ run, at, above }) => ({
          name: String(run.run),
          value: [at, above, run.mean],
          itemStyle:
            run.run === shown
              ? { color: inks('plum') }
              : run.run === mine
                ? { color: inks('brass-bright'), borderColor: inks('ink'), borderWidth: 1 }
                : { color: inks('slate') },
        })),
      },
    ],
  })
}
