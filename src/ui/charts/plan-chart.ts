import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import { houseAxes, type Inks } from './EChart'

/** Points drawn at the most; between them a curve like this hides nothing. */
const POINTS = 800

/** Where the axis of sweeps ends; the slider below it ends there too. */
export function sweepAxis(reached: number): number {
  return Math.max(10, reached)
}

/** The largest change of each sweep, on a logarithmic axis, with the play head. */
export function planChart(changes: readonly number[], sweep: number): (inks: Inks) => EChartsCoreOption {
  const every = Math.max(1, Math.ceil(changes.length / POINTS))
  // A change of 0 has no place on a logarithmic axis; it is left out.
  const points = changes
    .map((change, i) => [i + 1, change])
    .filter(([at, change]) => change > 0 && ((at - 1) % every === 0 || at === changes.length))
  const decades = points.map(([, change]) => Math.log10(change))
  const low = Math.min(0, ...decades)
  const high = Math.max(1, ...decades)
  // Whole decades between labels, and the lower end on one of them.
  const step = Math.max(1, Math.ceil((high - low) / 4))
  return (inks) => ({
    ...houseAxes(
      inks,
      { name: 'sweep', min: 0, max: sweepAxis(changes.length) },
      {
        type: 'log',
        min: 10 ** (Math.floor(low / step) * step),
        max: 10 ** Math.ceil(high),
        interval: step,
        name: 'largest change of a value (log scale)',
        axisLabel: {
          hideOverlap: true,
          // An end of the axis that is off the rhythm would lie on its neighbour.
          showMaxLabel: Math.ceil(high) % step === 0,
          color: inks('ink-soft'),
          fontSize: 12,
          formatter: (value: number) => formatNumber(value),
        },
      },
    ),
    series: [
      {
        type: 'line',
        name: 'largest change',
        data: points,
        symbol: points.length < 40 ? 'circle' : 'none',
        symbolSize: 5,
        itemStyle: { color: inks('plum') },
        lineStyle: { color: inks('plum'), width: 1.75 },
        tooltip: { valueFormatter: (value: unknown) => formatNumber(Number(value), 6) },
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          label: { show: false },
          lineStyle: { color: inks('brass-bright'), width: 2, type: 'solid' },
          data: [{ xAxis: sweep }],
        },
      },
    ],
  })
}
