import type { EChartsCoreOption } from 'echarts/core'
import type { Bar } from '../../core/evaluate/histogram'
import { formatCount, significantNumber } from '../../core/formats/number'
import { houseAxes, type Inks } from './house'

/** What is used of the interface that custom series draw with. */
interface CustomApi {
  coord(point: readonly number[]): [number, number]
}

/** How a bar is called when it is clicked: its place. */
export function barName(place: number): string {
  return String(place)
}

/** Counts of values as bars, as wide as what they count; single values as thin ones. */
export function histogramChart(
  bars: readonly Bar[],
  { name, of }: { readonly name: string; readonly of: string },
): (inks: Inks) => EChartsCoreOption {
  const least = bars[0].low
  const most = bars[bars.length - 1].high
  const single = bars.every(({ low, high }) => low === high)
  const gaps = bars.slice(1).map(({ low }, i) => low - bars[i].low)
  const gap = gaps.length ? Math.min(...gaps) : 1
  const margin = single ? gap / 2 : 0
  const total = bars.reduce((sum, { count }) => sum + count, 0)
  return (inks) => {
    const base = houseAxes(
      inks,
      { name: '', min: least - margin, max: most + margin },
      { type: 'value', name: of, min: 0, splitNumber: 2 },
    )
    return {
      ...base,
      grid: { left: 40, right: 12, top: 22, bottom: 4 },
      xAxis: {
        ...(base.xAxis as object),
        name,
        nameLocation: 'middle',
        nameGap: 22,
        nameTextStyle: { color: inks('ink-soft'), fontSize: 12 },
        interval: undefined,
        minInterval: undefined,
        splitNumber: 4,
        axisLabel: {
          color: inks('ink-soft'),
          fontSize: 12,
          hideOverlap: true,
          formatter: (value: number) => significantNumber(value, 4),
        },
      },
      tooltip: {
        ...(base.tooltip as object),
        trigger: 'item',
        formatter: ({ dataIndex }: { dataIndex: number }) => {
          const { low, high, count } = bars[dataIndex]
          const range =
            low === high
              ? significantNumber(low, 6)
              : `${significantNumber(low, 6)} to ${significantNumber(high, 6)}`
          return `${range}: ${formatCount(count)} ${of}, ${significantNumber((100 * count) / total)} %`
        },
      },
      series: [
        {
          type: 'custom',
          data: bars.map(({ low, high, count }, place) => ({
            name: barName(place),
            value: [(low + high) / 2, count],
          })),
          renderItem: ({ dataIndex }: { dataIndex: number }, api: CustomApi) => {
            const { low, high, count } = bars[dataIndex]
            const half = single ? Math.max(gap * 0.35, (most - least) / 200) : 0
            const [left, top] = api.coord([low - half, count])
            const [right, bottom] = api.coord([high + half, 0])
            return {
              type: 'rect',
              shape: {
                x: left + (single ? 0 : 0.5),
                y: top,
                width: Math.max(2, right - left - (single ? 0 : 1)),
                height: bottom - top,
              },
              style: { fill: inks('slate') },
            }
          },
        },
      ],
    }
  }
}
