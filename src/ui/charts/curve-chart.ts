import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import type { Model } from '../../core/model/model'
import type { Axis } from '../../core/model/space'
import { statesOfCell, sumUp, type MapLayout } from '../board/map-layout'
import { houseAxes, houseLegend, type Inks } from './house'

/** Lines in one chart at the most. */
const LINES = 8
const NO_START: ReadonlySet<number> = new Set()

/** A line of a curve: one value a step of the axis; null where there is no state that decides. */
export interface CurveLine {
  readonly title: string
  readonly values: readonly (number | null)[]
}

/** The values over the variable across, a line for each value of the other variable (evenly picked if there are many). */
export function curveLines(model: Model, layout: MapLayout, values: Float64Array): CurveLine[] {
  const { columns, rows, space, view } = layout
  const up = view.up < 0 ? null : space.axes[view.up]
  const step = rows <= LINES ? 1 : (rows - 1) / (LINES - 1)
  const picked = Array.from({ length: Math.min(rows, LINES) }, (_, i) => Math.round(i * step))
  return picked.map((place) => {
    // The rows of a map count from the top, the values of its axis from below.
    const row = rows - 1 - place
    return {
      title: up ? `${up.name} ${up.texts[place]}` : 'value',
      values: Array.from({ length: columns }, (_, column) => {
        const { value } = sumUp(model, statesOfCell(layout, row * columns + column), { values }, NO_START)
        return value !== undefined && Number.isFinite(value) ? value : null
      }),
    }
  })
}

/** Values over one variable. */
export function curveChart(
  lines: readonly CurveLine[],
  axis: Axis,
  title: string,
): (inks: Inks) => EChartsCoreOption {
  return (inks) => {
    const base = houseAxes(
      inks,
      { name: axis.name, min: 0, max: 1 },
      { type: 'value', name: title, scale: true },
    )
    return {
      ...base,
      grid: { left: 60, right: 24, top: 44, bottom: 46 },
      xAxis: {
        ...(base.xAxis as object),
        min: undefined,
        max: undefined,
        minInterval: undefined,
        type: 'category',
        data: axis.texts,
        boundaryGap: false,
        axisLabel: { color: inks('ink-soft'), fontSize: 12, hideOverlap: true },
      },
      legend: houseLegend(inks, lines.length > 1),
      series: lines.map(({ title: name, values }, i) => {
        // From what was to what is ahead: plum over ink to spruce, and dashed in turn for those who see no colours.
        const part = lines.length > 1 ? i / (lines.length - 1) : 0
        const colour =
          lines.length === 1
            ? inks('ink')
            : part < 0.5
              ? inks({ from: 'plum', to: 'ink', part: part * 2 })
              : inks({ from: 'ink', to: 'spruce', part: part * 2 - 1 })
        return {
          type: 'line',
          name,
          data: values,
          connectNulls: false,
          symbol: ['circle', 'diamond', 'rect', 'triangle'][i % 4],
          symbolSize: axis.texts.length > 60 ? 0 : 6,
          itemStyle: { color: colour },
          lineStyle: { color: colour, width: 2, type: i % 2 ? 'dashed' : 'solid' },
          tooltip: {
            valueFormatter: (value: unknown) => (value == null ? '–' : formatNumber(Number(value), 4)),
          },
        }
      }),
    }
  }
}
