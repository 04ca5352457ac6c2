import type { EChartsCoreOption } from 'echarts/core'
import { formatCount, formatNumber, significantNumber } from '../../core/formats/number'
import { houseAxes, niceStep, type Inks } from './house'
import { lineLook } from './line-looks'

/** A line of the picture, with the band around it. */
export interface BandLine {
  readonly title: string
  /** The number of its look. */
  readonly look: number
  /** All [points]; NaN where there is nothing, and in the ends of the band where there is none. */
  readonly x: ArrayLike<number>
  readonly middle: ArrayLike<number>
  readonly low: ArrayLike<number>
  readonly high: ArrayLike<number>
}

interface Axes {
  /** What lies along, and its ends. */
  readonly x: { readonly name: string; readonly min: number; readonly max: number }
  /** Whether it goes by equal factors: of ten, or of two with values marked as fractions. */
  readonly along: 'even' | 'tens' | 'doublings'
  readonly y: string
  /** Whether what is drawn is a share, from 0 to 1. */
  readonly share: boolean
  readonly bands: boolean
  /** What is the same everywhere, as a line across: the optimum. */
  readonly level?: { readonly title: string; readonly value: number } | null
}

/** Room for the names at the ends of the lines, in pixels. */
const NAMES = 220
/** A piece of each kind of line, before its name. */
const PIECES = { solid: '—', dashed: '--', dotted: '···' }

/** Lines with bands, each with its name at its end. */
export function bandChart(lines: readonly BandLine[], axes: Axes): (inks: Inks) => EChartsCoreOption {
  const { x, along, share, bands, level = null } = axes
  const marks = along === 'doublings'
  return (inks) => {
    const base = houseAxes(
      inks,
      { name: '', min: x.min, max: x.max },
      { type: 'value', name: axes.y, ...(share ? { min: 0, max: 1 } : endsOf(lines, level?.value ?? null)) },
    )
    return {
      ...base,
      grid: { left: 60, right: NAMES, top: 34, bottom: 46 },
      xAxis: {
        ...(base.xAxis as object),
        name: x.name,
        nameLocation: 'middle',
        nameGap: 28,
        nameTextStyle: { color: inks('ink'), fontSize: 13 },
        ...(along === 'even'
          ? {}
          : {
              type: 'log',
              logBase: marks ? 2 : 10,
              interval: undefined,
              minInterval: undefined,
              axisLabel: {
                color: inks('ink-soft'),
                fontSize: 12,
                hideOverlap: true,
                formatter: (value: number) => (marks ? fraction(value) : formatCount(value)),
              },
            }),
      },
      tooltip: {
        ...(base.tooltip as object),
        order: 'valueDesc',
        axisPointer: { label: { show: false } },
        valueFormatter: (value: unknown) => formatNumber(Number(value), 3),
      },
      series: [
        ...(level ? [levelOf(level, x, inks)] : []),
        ...lines.flatMap((line) => {
          const look = lineLook(line.look)
          const colour = inks(look.colour)
          return [
            ...(bands ? [bandOf(line, colour)] : []),
            {
              type: 'line',
              name: line.title,
              data: pointsOf(line),
              symbol: marks ? look.symbol : 'none',
              symbolSize: 7,
              showAllSymbol: true,
              itemStyle: { color: colour },
              lineStyle: { color: colour, width: 2, type: look.dash },
              endLabel: {
                show: true,
                formatter: `{piece|${PIECES[look.dash]}} ${line.title}`,
                rich: {
                  piece: { color: colour, width: 22, fontSize: 15, fontWeight: 'bold', lineHeight: 16 },
                },
                color: inks('ink'),
                fontSize: 13,
                lineHeight: 16,
                width: NAMES - 16,
                overflow: 'break',
                distance: 6,
              },
              labelLayout: { moveOverlap: 'shiftY' },
              emphasis: { disabled: true },
              z: 3,
            },
          ]
        }),
      ],
    }
  }
}

/** A line across with its name at its end. */
function levelOf(
  { title, value }: { readonly title: string; readonly value: number },
  { min, max }: Axes['x'],
  inks: Inks,
): object {
  return {
    type: 'line',
    name: title,
    data: [
      [min, value],
      [max, value],
    ],
    symbol: 'none',
    silent: true,
    itemStyle: { color: inks('ink-soft') },
    lineStyle: { color: inks('ink-soft'), width: 1.25, type: [2, 6] },
    tooltip: { show: false },
    endLabel: { show: true, formatter: title, color: inks('ink-soft'), fontSize: 13, distance: 6 },
    labelLayout: { moveOverlap: 'shiftY' },
  }
}

function pointsOf({ x, middle }: BandLine): [number, number][] {
  return Array.from(x, (at, i): [number, number] => [at, middle[i]]).filter(([, y]) => Number.isFinite(y))
}

/** Ends of the upright axis, on whole steps around the means. */
function endsOf(
  lines: readonly BandLine[],
  level: number | null,
): { min?: number; max?: number; interval?: number } {
  const all = lines.flatMap((line) => pointsOf(line).map(([, y]) => y))
  if (!all.length) return {}
  if (level !== null) all.push(level)
  const [least, most] = all.reduce(([a, b], y) => [Math.min(a, y), Math.max(b, y)], [Infinity, -Infinity])
  const interval = niceStep((most - least || Math.abs(most) || 1) / 9)
  return {
    min: Math.floor(least / interval + 1e-9) * interval,
    max: Math.ceil(most / interval - 1e-9) * interval,
    interval,
  }
}

/** The interval around the means as an area. */
function bandOf(line: BandLine, colour: string): object {
  const { x, low, high } = line
  const known = Array.from(x, (_, i) => i).filter((i) => Number.isFinite(low[i]) && Number.isFinite(high[i]))
  const outline = [...known.map((i) => [x[i], high[i]]), ...known.reverse().map((i) => [x[i], low[i]])]
  return {
    type: 'custom',
    silent: true,
    clip: true,
    data: outline.length ? [outline[0]] : [],
    tooltip: { show: false },
    renderItem: (_: unknown, api: { coord(point: readonly number[]): [number, number] }) => ({
      type: 'polygon',
      shape: { points: outline.map((point) => api.coord(point)) },
      style: { fill: colour, opacity: 0.18 },
    }),
    z: 1,
  }
}

/** A power of two as people write it: 1/8, 4. */
export function fraction(value: number): string {
  return value < 1 && Number.isInteger(1 / value) ? `1/${formatCount(1 / value)}` : significantNumber(value)
}
