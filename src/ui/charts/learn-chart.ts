import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import type { ReturnCurve } from '../../core/learn/episode-log'
import { houseAxes, type Inks } from './EChart'

/** The return of each episode (thinned), its rolling mean, and the optimum as a line. */
export function learnChart(
  curve: ReturnCurve,
  episodes: number,
  optimum: number | null,
): (inks: Inks) => EChartsCoreOption {
  const pairs = (ys: Float64Array) => Array.from(curve.episode, (episode, i) => [episode, ys[i]])
  const [low, high] = axisRange(curve, optimum)
  const last = curve.episode.at(-1) ?? 0
  return (inks) => ({
    ...houseAxes(
      inks,
      { name: 'episode', min: 0, max: Math.min(episodes, Math.max(20, niceAbove(last))) },
      { type: 'value', name: 'return (discounted sum of rewards)', min: low, max: high, splitNumber: 3 },
    ),
    series: [
      {
        type: 'scatter',
        name: 'return',
        data: pairs(curve.single),
        symbolSize: 3,
        itemStyle: { color: inks('brass-bright'), opacity: 0.45 },
        tooltip: { valueFormatter: (value: unknown) => formatNumber(Number(value)) },
      },
      {
        type: 'line',
        name: `mean of the last ${curve.window}`,
        data: pairs(curve.mean),
        symbol: 'none',
        lineStyle: { color: inks('ink'), width: 2 },
        itemStyle: { color: inks('ink') },
        tooltip: { valueFormatter: (value: unknown) => formatNumber(Number(value)) },
        markLine:
          optimum === null
            ? undefined
            : {
                silent: true,
                symbol: 'none',
                animation: false,
                label: {
                  formatter: `optimum ${formatNumber(optimum)}`,
                  position: 'insideStartBottom',
                  color: inks('spruce'),
                  fontSize: 12,
                },
                lineStyle: { color: inks('spruce'), width: 1.5, type: 'dashed' },
                data: [{ yAxis: optimum }],
              },
      },
    ],
  })
}

/** Rolling mean, optimum and the middle 96 % of single returns: a few wild episodes do not flatten the curve. */
function axisRange(curve: ReturnCurve, optimum: number | null): [number, number] {
  const sorted = curve.single.slice().sort()
  const cut = Math.floor(sorted.length * 0.02)
  const seen = [
    ...curve.mean,
    ...sorted.subarray(cut, sorted.length - cut),
    ...(optimum === null ? [] : [optimum]),
  ]
  if (!seen.length) return [-1, 1]
  const low = seen.reduce((x, y) => Math.min(x, y), Infinity)
  const high = seen.reduce((x, y) => Math.max(x, y), -Infinity)
  const step = niceStep((high - low || 1) / 4)
  return [Math.floor(low / step - 0.05) * step, Math.ceil(high / step + 0.15) * step]
}

function niceStep(rough: number): number {
  const power = 10 ** Math.floor(Math.log10(rough))
  return ([1, 2, 5, 10].find((factor) => factor * power >= rough) ?? 10) * power
}

/** Round numbers for the end of the axis, so that it does not move with every episode. */
function niceAbove(count: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, count)))
  return ([1, 2, 3, 5, 10].find((factor) => factor * power >= count) ?? 10) * power
}
