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
  /** Whether it is of no more than passing interest: drawn in grey. */
  readonly faded?: boolean
  /** Single runs behind it, each [points]. */
  readonly singles?: readonly { readonly run: number; readonly y: ArrayLike<number> }[]
}

/** What is the same everywhere, as a line across: the optimum. */
export interface Level {
  readonly title: string
  readonly value: number
  /** Whether it is left out where it lies beyond everything else. */
  readonly optional?: boolean
}

interface Axes {
  /** What lies along, and its ends. */
  readonly x: { readonly name: string; readonly min: number; readonly max: number }
  /** Whether it goes by equal factors: of ten, or of two. */
  readonly along: 'even' | 'tens' | 'doublings'
  /** What the places 0, 1, … along stand for, where they are no numbers. */
  readonly words?: readonly string[]
  /** Whether the points stand for single values, which are marked; fractions are written as such. */
  readonly marks?: boolean
  readonly y: string
  /** Whether what is drawn is a share, from 0 to 1. */
  readonly share: boolean
  readonly bands: boolean
  readonly levels?: readonly Level[]
  /** Lines of another kind in a plot of their own beneath, over the same axis. */
  readonly beneath?: { readonly title: string; readonly lines: readonly BandLine[] } | null
}

/** The name of a single run, as a click on it tells. */
export function runName(title: string, run: number): string {
  return `${title}, run ${run}`
}

/** Room for the names at the ends of the lines, in pixels. */
const NAMES = 220
/** A piece of each kind of line, before its name. */
const PIECES = { solid: '—', dashed: '--', dotted: '···' }
/** The same of what lies across. */
const SPARSE = '· ·'

/** Lines with bands, each with its name at its end. */
export function bandChart(lines: readonly BandLine[], axes: Axes): (inks: Inks) => EChartsCoreOption {
  const { x, along, share, bands, words, beneath = null } = axes
  const ends = share ? { min: 0, max: 1 } : endsOf(lines, axes.levels ?? [])
  const levels = (axes.levels ?? []).filter(
    ({ value, optional }) => !optional || (value >= (ends.min ?? value) && value <= (ends.max ?? value)),
  )
  const marks = axes.marks ?? along === 'doublings'
  return (inks) => {
    const base = houseAxes(
      inks,
      { name: '', min: x.min, max: x.max },
      { type: 'value', name: axes.y, ...ends },
    )
    const across = {
      ...(base.xAxis as object),
      name: x.name,
      nameLocation: 'middle',
      nameGap: 28,
      nameTextStyle: { color: inks('ink'), fontSize: 13 },
      ...(along === 'even' && !marks
        ? {}
        : {
            ...(along === 'even' ? {} : { type: 'log', logBase: along === 'doublings' ? 2 : 10 }),
            ...(words ? { interval: 1 } : { interval: undefined }),
            minInterval: undefined,
            axisLabel: {
              color: inks('ink-soft'),
              fontSize: 12,
              hideOverlap: true,
              formatter: (value: number) =>
                words ? (words[value] ?? '') : marks ? fraction(value) : formatCount(value),
            },
          }),
    }
    const sides = { left: 60, right: NAMES }
    return {
      ...base,
      ...(beneath
        ? {
            grid: [
              { ...sides, top: 34, bottom: '36%' },
              { ...sides, top: '72%', bottom: 46 },
            ],
            xAxis: [
              { ...across, name: '', axisLabel: { show: false } },
              { ...across, gridIndex: 1 },
            ],
            yAxis: [
              base.yAxis,
              {
                ...(base.yAxis as object),
                gridIndex: 1,
                type: 'value',
                name: beneath.title,
                min: 0,
                max: undefined,
                interval: undefined,
                splitNumber: 2,
              },
            ],
          }
        : { grid: { ...sides, top: 34, bottom: 46 }, xAxis: across }),
      tooltip: {
        ...(base.tooltip as object),
        order: 'valueDesc',
        axisPointer: { label: { show: false } },
        valueFormatter: (value: unknown) => formatNumber(Number(value), 3),
      },
      series: [
        ...levels.map((level) => levelOf(level, x, inks)),
        ...lines.flatMap((line) => lineOf(line, { bands, marks, named: true, plot: 0 }, inks)),
        ...(beneath?.lines ?? []).flatMap((line) =>
          lineOf(line, { bands: false, marks: false, named: false, plot: 1 }, inks),
        ),
      ],
    }
  }
}

/** A line with its band, its single runs and its name. @param plot  0 for the upper one, 1 for the one beneath */
function lineOf(
  line: BandLine,
  {
    bands,
    marks,
    named,
    plot,
  }: {
    readonly bands: boolean
    readonly marks: boolean
    readonly named: boolean
    readonly plot: number
  },
  inks: Inks,
): object[] {
  const look = lineLook(line.look)
  const colour = line.faded ? inks('rule-strong') : inks(look.colour)
  const place = { xAxisIndex: plot, yAxisIndex: plot }
  return [
    ...(bands ? [{ ...bandOf(line, colour), ...place }] : []),
    ...(line.singles ?? []).map(({ run, y }) => ({
      type: 'line',
      name: runName(line.title, run),
      data: pointsOf({ ...line, middle: y }),
      ...place,
      symbol: 'none',
      triggerLineEvent: true,
      lineStyle: { color: colour, width: 1, opacity: 0.35 },
      tooltip: { show: false },
      emphasis: { lineStyle: { width: 2.5, opacity: 1 } },
      z: 2,
    })),
    {
      type: 'line',
      name: line.title,
      data: pointsOf(line),
      ...place,
      symbol: marks ? look.symbol : 'none',
      symbolSize: 7,
      showAllSymbol: true,
      itemStyle: { color: colour },
      lineStyle: { color: colour, width: 2, type: look.dash },
      ...(named
        ? nameAtEnd(PIECES[look.dash], line.title, colour, inks(line.faded ? 'ink-soft' : 'ink'))
        : {}),
      emphasis: { disabled: true },
      z: 3,
    },
  ]
}

/** A name at the end of a line, after a piece of it; names that would lie on each other are moved apart. */
function nameAtEnd(piece: string, title: string, colour: string, ink: string): object {
  return {
    endLabel: {
      show: true,
      formatter: `{piece|${piece}} ${title}`,
      rich: { piece: { color: colour, width: 22, fontSize: 15, fontWeight: 'bold', lineHeight: 16 } },
      color: ink,
      fontSize: 13,
      lineHeight: 16,
      width: NAMES - 16,
      overflow: 'break',
      distance: 6,
    },
    labelLayout: { moveOverlap: 'shiftY' },
  }
}

/** A line across with its name at its end. */
function levelOf({ title, value }: Level, { min, max }: Axes['x'], inks: Inks): object {
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
    ...nameAtEnd(SPARSE, title, inks('ink-soft'), inks('ink-soft')),
  }
}

function pointsOf({ x, middle }: Pick<BandLine, 'x' | 'middle'>): [number, number][] {
  return Array.from(x, (at, i): [number, number] => [at, middle[i]]).filter(([, y]) => Number.isFinite(y))
}

/** Ends of the upright axis, on whole steps around the means. */
function endsOf(
  lines: readonly BandLine[],
  levels: readonly Level[],
): { min?: number; max?: number; interval?: number } {
  const all = lines.flatMap((line) => pointsOf(line).map(([, y]) => y))
  if (!all.length) return {}
  all.push(...levels.flatMap(({ value, optional }) => (optional ? [] : [value])))
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

/** A power of two as people write it: 1/8, 4; other numbers as they are. */
export function fraction(value: number): string {
  return value < 1 && Number.isInteger(Math.log2(value))
    ? `1/${formatCount(1 / value)}`
    : significantNumber(value)
}
