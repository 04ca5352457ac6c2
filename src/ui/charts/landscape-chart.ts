import type { EChartsCoreOption } from 'echarts/core'
import { LANDSCAPE_SCALES, type LandscapeScale } from '../../core/learn/landscape'
import { formatNumber, significantNumber } from '../../core/formats/number'
import { valueColour, valueScale } from '../board/value-scale'
import { houseAxes, houseLegend, type Inks } from './house'

/** What policy search climbs, ready to be drawn. */
export interface LandscapePicture {
  /** What the axes are called: one, or two. */
  readonly axes: readonly string[]
  /** What goes along them. */
  readonly scale: LandscapeScale
  readonly size: number
  /** [size], or [size x size] with the first axis running fastest; NaN where there is no value */
  readonly values: ArrayLike<number>
  /** Where the run was: its value, and the probability of each axis. */
  readonly path: readonly (readonly [value: number, ...at: number[]])[]
  /** Where it is; its value null where that is not known. */
  readonly now: { readonly at: readonly number[]; readonly value: number | null }
}

/** Arrows along an axis of a map. */
const ARROWS = 12

/** Where a probability lies along an axis, and a part of its length. */
function placeOf(scale: LandscapeScale, probability: number): number {
  return LANDSCAPE_SCALES[scale].fromProbability(probability)
}

function along(scale: LandscapeScale, part: number): number {
  const { min, max } = LANDSCAPE_SCALES[scale]
  return min + part * (max - min)
}

/** The highest point: its value and where it lies, in parts of the axes; null where nothing is known. */
export function highest({
  axes,
  size,
  values,
}: Pick<LandscapePicture, 'axes' | 'size' | 'values'>): { value: number; at: number[] } | null {
  let best = -1
  for (let i = 0; i < values.length; i++)
    if (Number.isFinite(values[i]) && (best < 0 || values[i] > values[best])) best = i
  if (best < 0) return null
  const places = [best % size, Math.floor(best / size)].slice(0, axes.length)
  return { value: values[best], at: places.map((place) => place / (size - 1)) }
}

/**
 * Where the value rises fastest, on a coarse grid over a map: from, and the direction as parts of the axes. Flat places,
 * and those without a value beside them, have none.
 */
export function slopes({
  size,
  values,
}: Pick<LandscapePicture, 'size' | 'values'>): { x: number; y: number; dx: number; dy: number }[] {
  const found: { x: number; y: number; dx: number; dy: number }[] = []
  const step = (size - 1) / ARROWS
  for (let i = 0; i < ARROWS; i++)
    for (let j = 0; j < ARROWS; j++) {
      const [x, y] = [Math.round((i + 0.5) * step), Math.round((j + 0.5) * step)]
      const at = (dx: number, dy: number) => values[(y + dy) * size + x + dx]
      const [dx, dy] = [at(1, 0) - at(-1, 0), at(0, 1) - at(0, -1)]
      const length = Math.hypot(dx, dy)
      if (length > 1e-12)
        found.push({ x: x / (size - 1), y: y / (size - 1), dx: dx / length, dy: dy / length })
    }
  return found
}

export function landscapeChart(picture: LandscapePicture): (inks: Inks) => EChartsCoreOption {
  return picture.axes.length === 1 ? lineOf(picture) : mapOf(picture)
}

const policyAxis = (inks: Inks, name: string, scale: LandscapeScale) => ({
  type: 'value',
  name,
  nameLocation: 'middle',
  nameGap: 26,
  nameTextStyle: { color: inks('ink'), fontSize: 13 },
  min: LANDSCAPE_SCALES[scale].min,
  max: LANDSCAPE_SCALES[scale].max,
  interval: scale === 'probability' ? 0.2 : 2,
  axisLabel: { color: inks('ink-soft'), fontSize: 12, formatter: (value: number) => formatNumber(value, 1) },
  axisLine: { onZero: false, lineStyle: { color: inks('rule-strong') } },
  splitLine: { show: false },
})

/** The points that are marked: the path of the run, where it is, the highest one. */
function marks(inks: Inks, { path, now, axes, size, values, scale }: LandscapePicture) {
  const flat = axes.length === 1
  const spot = (value: number, at: readonly number[]) => (flat ? [at[0], value] : [at[0], at[1]])
  const place = ([value, ...at]: readonly number[]) =>
    spot(
      value,
      at.map((probability) => placeOf(scale, probability)),
    )
  const best = highest({ axes, size, values })
  const point = (name: string, at: number[], symbol: string, colour: string, edge: string) => ({
    type: 'scatter',
    name,
    data: [at],
    symbol,
    symbolSize: 13,
    itemStyle: { color: colour, borderColor: edge, borderWidth: 1.5, opacity: 1 },
    z: 6,
  })
  return [
    path.length > 0 && {
      type: 'line',
      name: 'path of the run',
      data: path.map(place),
      symbol: 'circle',
      symbolSize: 4,
      itemStyle: { color: inks('plum'), opacity: 1 },
      lineStyle: { color: inks('plum'), width: 1.5 },
      z: 4,
    },
    ...(best
      ? [
          point(
            `highest: ${formatNumber(best.value, 3)}`,
            spot(
              best.value,
              best.at.map((part) => along(scale, part)),
            ),
            'diamond',
            inks('spruce'),
            inks('sheet'),
          ),
        ]
      : []),
    ...(now.value !== null || !flat
      ? [
          point(
            now.value === null ? 'now' : `now: ${formatNumber(now.value, 3)}`,
            place([now.value ?? 0, ...now.at]),
            'circle',
            inks('brass-bright'),
            inks('ink'),
          ),
        ]
      : []),
  ].filter(Boolean)
}

const legendOf = (inks: Inks) => ({
  ...houseLegend(inks, true),
  itemStyle: { opacity: 1 },
  itemHeight: 10,
})

function lineOf(picture: LandscapePicture): (inks: Inks) => EChartsCoreOption {
  const { axes, size, values, scale } = picture
  return (inks) => {
    const base = houseAxes(
      inks,
      { name: '', min: 0, max: 1 },
      { type: 'value', name: 'value at the start', scale: true, axisLine: { onZero: false } },
    )
    return {
      ...base,
      grid: { left: 64, right: 24, top: 44, bottom: 46 },
      xAxis: policyAxis(inks, axes[0], scale),
      legend: legendOf(inks),
      tooltip: {
        ...(base.tooltip as object),
        valueFormatter: (value: unknown) => significantNumber(Number(value), 5),
      },
      series: [
        {
          type: 'line',
          name: 'value of the policy',
          data: Array.from(values, (value, i) => [
            along(scale, i / (size - 1)),
            Number.isFinite(value) ? value : null,
          ]),
          symbol: 'none',
          lineStyle: { color: inks('ink'), width: 2 },
          itemStyle: { color: inks('ink') },
          connectNulls: false,
        },
        ...marks(inks, picture),
      ],
    }
  }
}

function mapOf(picture: LandscapePicture): (inks: Inks) => EChartsCoreOption {
  const { axes, size, values, scale } = picture
  const colours = valueScale([values])
  return (inks) => {
    const base = houseAxes(inks, { name: '', min: 0, max: 1 }, {})
    const { min, max } = LANDSCAPE_SCALES[scale]
    const half = (0.5 * (max - min)) / (size - 1)
    return {
      ...base,
      grid: { left: 64, right: 24, top: 44, bottom: 46 },
      xAxis: policyAxis(inks, axes[0], scale),
      yAxis: { ...policyAxis(inks, axes[1], scale), nameGap: 36 },
      legend: legendOf(inks),
      tooltip: {
        ...(base.tooltip as object),
        trigger: 'item',
        formatter: ({ value }: { value: number[] }) =>
          value.length === 3
            ? `${formatNumber(value[0])} and ${formatNumber(value[1])}: ${significantNumber(value[2], 5)}`
            : `${formatNumber(value[0], 3)} and ${formatNumber(value[1], 3)}`,
      },
      series: [
        {
          type: 'custom',
          data: Array.from(values, (value, i) => [
            along(scale, (i % size) / (size - 1)),
            along(scale, Math.floor(i / size) / (size - 1)),
            value,
          ]).filter(([, , value]) => Number.isFinite(value)),
          clip: true,
          renderItem: (_: unknown, api: CustomApi) => {
            const [x, y] = [api.value(0), api.value(1)]
            const [left, top] = api.coord([x - half, y + half])
            const [right, bottom] = api.coord([x + half, y - half])
            return {
              type: 'rect',
              // A little over its neighbours: no seams.
              shape: { x: left, y: top, width: right - left + 0.7, height: bottom - top + 0.7 },
              style: { fill: inks(valueColour(colours!, api.value(2))) },
            }
          },
          z: 1,
        },
        {
          type: 'custom',
          silent: true,
          data: slopes(picture).map(({ x, y, dx, dy }) => [along(scale, x), along(scale, y), dx, dy]),
          renderItem: (_: unknown, api: CustomApi) => {
            const [x, y] = api.coord([api.value(0), api.value(1)])
            const reach = 9
            const [dx, dy] = [api.value(2) * reach, -api.value(3) * reach]
            return {
              type: 'polygon',
              shape: {
                points: [
                  [x + dx, y + dy],
                  [x - dx - dy * 0.35, y - dy + dx * 0.35],
                  [x - dx + dy * 0.35, y - dy - dx * 0.35],
                ],
              },
              style: { fill: inks('ink'), opacity: 0.45 },
            }
          },
          z: 2,
        },
        ...marks(inks, picture),
      ],
    }
  }
}

/** What is used of the interface that custom series draw with. */
interface CustomApi {
  value(dimension: number): number
  coord(point: readonly number[]): [number, number]
}
