import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import { houseAxes, houseLegend, legendLines, type Inks } from './house'

/** Points drawn at the most; between them a curve like this hides nothing. */
const POINTS = 800

/** The curve of one plan: the largest change of each sweep, and the backups made up to its end. */
export interface PlanCurve {
  readonly title: string
  readonly changes: readonly number[]
  readonly work: readonly number[]
}

export interface PlanStrip {
  readonly curves: readonly PlanCurve[]
  /** What goes along: sweeps for one plan, backups for plans that are compared. */
  readonly along: 'sweep' | 'backups'
  /** Where the play head is. */
  readonly head: number
  /** The factor by which each sweep is sure to bring values closer, where it is sure to. */
  readonly rate: number | null
  /** The sweep from which on the best actions of the first plan stay the same. */
  readonly settled?: number | null
  /** What a sweep is called. */
  readonly unit?: string
}

/** Room for the name of the upright axis, in pixels. */
const NAME = 150

/** Where the axis along ends; the slider below it ends there too. */
export function stripEnd({ curves, along }: Pick<PlanStrip, 'curves' | 'along'>): number {
  if (along === 'sweep') return Math.max(10, curves[0]?.changes.length ?? 0)
  return Math.max(10, ...curves.map(({ work }) => work.at(-1) ?? 0))
}

/** The largest change of each sweep, on a logarithmic axis, with the play head and the rate that theory promises. */
export function planChart(strip: PlanStrip): (inks: Inks, width: number) => EChartsCoreOption {
  const { curves, along, head, rate, settled, unit = 'sweep' } = strip
  const still = settled ? (along === 'sweep' ? settled : curves[0]?.work[settled - 1]) : undefined
  const lines = curves.map((curve) => ({ title: curve.title, points: pointsOf(curve, along) }))
  const decades = lines.flatMap(({ points }) => points.map(([, change]) => Math.log10(change)))
  const low = decades.reduce((x, y) => Math.min(x, y), 0)
  const high = decades.reduce((x, y) => Math.max(x, y), 1)
  // Whole decades between labels, and the lower end on one of them.
  const step = Math.max(1, Math.ceil((high - low) / 4))
  const bottom = 10 ** (Math.floor(low / step) * step)
  const promised = curves.length && rate !== null ? promise(curves[0], along, rate, bottom) : []
  const bound = promised.length ? [`bound, × ${formatNumber(rate!, 4)} a sweep`] : []
  const names = [...bound, ...lines.map(({ title }) => title)]
  return (inks, width) => ({
    ...houseAxes(
      inks,
      { name: along === 'sweep' ? unit : 'backups', min: 0, max: stripEnd(strip) },
      {
        type: 'log',
        min: bottom,
        max: 10 ** Math.ceil(high),
        interval: step,
        name: 'largest change (log scale)',
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
    grid: {
      left: 56,
      right: 18,
      top: 8 + 16 * Math.max(1, legendLines(names, width - NAME - 32)),
      bottom: 34,
    },
    legend: { ...houseLegend(inks, names.length > 1), left: NAME, padding: [5, 0], itemGap: 8, data: names },
    series: [
      ...(promised.length
        ? [
            {
              type: 'line',
              name: bound[0],
              data: promised,
              symbol: 'none',
              silent: true,
              itemStyle: { color: inks('slate') },
              lineStyle: { color: inks('slate'), width: 1.25, type: 'dashed' },
              tooltip: { show: false },
            },
          ]
        : []),
      ...lines.map(({ title, points }, i) => {
        const colour = inks(i === 0 ? 'plum' : 'spruce')
        return {
          type: 'line',
          name: title,
          data: points,
          symbol: points.length < 40 ? (i === 0 ? 'circle' : 'diamond') : 'none',
          symbolSize: 5,
          itemStyle: { color: colour },
          lineStyle: { color: colour, width: 1.75 },
          tooltip: { valueFormatter: (value: unknown) => formatNumber(Number(value), 6) },
          markLine:
            i > 0
              ? undefined
              : {
                  silent: true,
                  symbol: 'none',
                  animation: false,
                  label: { show: false },
                  lineStyle: { color: inks('brass-bright'), width: 2, type: 'solid' },
                  data: [
                    { xAxis: head },
                    ...(still === undefined
                      ? []
                      : [
                          {
                            xAxis: still,
                            lineStyle: { color: inks('ink-soft'), width: 1, type: 'dotted' },
                            label: {
                              show: true,
                              formatter: 'best actions settled',
                              // Where the curve is not: below it at first, above it later.
                              ...(still < stripEnd(strip) / 2
                                ? { position: 'insideStartTop', offset: [4, -2], align: 'left' }
                                : { position: 'insideEndTop', offset: [-4, 8], align: 'right' }),
                              rotate: 0,
                              color: inks('ink-soft'),
                              fontSize: 12,
                            },
                          },
                        ]),
                  ],
                },
        }
      }),
    ],
  })
}

/** A change of 0 has no place on a logarithmic axis; it is left out. */
function pointsOf({ changes, work }: PlanCurve, along: PlanStrip['along']): [number, number][] {
  const every = Math.max(1, Math.ceil(changes.length / POINTS))
  return changes.flatMap((change, i): [number, number][] =>
    change > 0 && Number.isFinite(change) && (i % every === 0 || i === changes.length - 1)
      ? [[along === 'sweep' ? i + 1 : work[i], change]]
      : [],
  )
}

/** From the first change on, the most that the changes can be: a straight line on this axis. */
function promise(
  { changes, work }: PlanCurve,
  along: PlanStrip['along'],
  rate: number,
  bottom: number,
): [number, number][] {
  const first = changes[0]
  const sweeps = changes.length
  if (!(first > 0) || sweeps < 2 || !(rate > 0 && rate < 1)) return []
  const last = Math.min(sweeps - 1, Math.log(bottom / first) / Math.log(rate))
  const at = (sweep: number) =>
    along === 'sweep' ? sweep : work[0] + ((sweep - 1) * (work[sweeps - 1] - work[0])) / (sweeps - 1)
  return [
    [at(1), first],
    [at(1 + last), first * rate ** last],
  ]
}
