import type { EChartsCoreOption } from 'echarts/core'
import { formatCount, significantNumber } from '../../core/formats/number'
import type { Colour } from '../board/pen'

/** Colours of the theme in force, for option builders. */
export type Inks = (colour: Colour) => string

/**
 * Charts draw on a canvas, which wants a font name with digits in quotes; single ones, as the chart library writes the
 * name into an attribute with double ones.
 */
export const FONT = "'Source Sans 3 Variable', 'Source Sans 3', 'Arial Narrow', Arial, sans-serif"

/** What the lines are, above the plot at the right: as they are drawn, as some differ by their dashes alone. */
export function houseLegend(inks: Inks, show: boolean): object {
  return {
    show,
    top: 0,
    right: 32,
    itemHeight: 8,
    itemWidth: 24,
    itemStyle: { opacity: 0 },
    textStyle: { color: inks('ink-soft'), fontSize: 12 },
  }
}

/** About how many lines a legend takes. @param width  the room for it, in pixels */
export function legendLines(names: readonly string[], width: number): number {
  return Math.ceil(names.reduce((sum, name) => sum + 5.2 * name.length + 37, 0) / Math.max(120, width))
}

/** Axes, grid and text in the house's way. */
export function houseAxes(
  inks: Inks,
  x: { name: string; min: number; max: number },
  y: object,
): EChartsCoreOption {
  const text = { color: inks('ink-soft'), fontFamily: FONT, fontSize: 12 }
  const interval = niceStep((x.max - x.min) / 6)
  return {
    animation: false,
    textStyle: { fontFamily: FONT },
    grid: { left: 56, right: 18, top: 24, bottom: 34 },
    xAxis: {
      type: 'value',
      name: x.name,
      nameLocation: 'end',
      nameTextStyle: { ...text, align: 'right', verticalAlign: 'top', padding: [20, 0, 0, 0] },
      min: x.min,
      max: x.max,
      minInterval: 1,
      interval,
      axisLabel: {
        ...text,
        hideOverlap: true,
        // An end that is off the rhythm would lie on its neighbour.
        showMaxLabel: Number.isInteger((x.max - x.min) / interval),
        formatter: (value: number) => formatCount(value),
      },
      axisLine: { onZero: false, lineStyle: { color: inks('rule-strong') } },
      axisTick: { lineStyle: { color: inks('rule-strong') } },
      splitLine: { show: false },
    },
    yAxis: {
      nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, -48] },
      nameGap: 8,
      axisLabel: { ...text, formatter: (value: number) => significantNumber(value, 6) },
      splitLine: { lineStyle: { color: inks('rule') } },
      ...y,
    },
    tooltip: {
      trigger: 'axis',
      backgroundColor: inks('sheet'),
      borderColor: inks('rule-strong'),
      textStyle: { color: inks('ink'), fontFamily: FONT, fontSize: 13 },
    },
  }
}

/** A round number of at least this: 1, 2 or 5 times a power of ten. */
export function niceStep(rough: number): number {
  const power = 10 ** Math.floor(Math.log10(rough))
  return ([1, 2, 5, 10].find((factor) => factor * power >= rough) ?? 10) * power
}
