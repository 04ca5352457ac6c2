import type { EChartsCoreOption } from 'echarts/core'
import { formatNumber } from '../../core/formats/number'
import { fraction } from './band-chart'
import { FONT, houseAxes, type Inks } from './house'

/** A cell of a map over two settings. */
export interface HeatCell {
  readonly x: number
  readonly y: number
  readonly mean: number
  /** Half of the 95 % interval of the mean. */
  readonly error: number
  /** Whether it is the best one, or cannot be told from it. */
  readonly mark: 'best' | 'alike' | null
}

/** What is used of the interface that custom series draw with. */
interface CustomApi {
  coord(point: readonly number[]): [number, number]
  size(span: readonly number[]): [number, number]
}

interface HeatAxes {
  readonly x: string
  readonly y: string
  /** Whether less of the score is better. */
  readonly smaller: boolean
  /** [x, y] What the places 0, 1, … stand for, where they are no numbers. */
  readonly words?: readonly (readonly string[] | null)[]
}

/** How a cell is called when it is clicked: `x y`. */
export function heatCellName({ x, y }: Pick<HeatCell, 'x' | 'y'>): string {
  return `${x} ${y}`
}

/**
 * A map over two settings, a cell a combination with its score in it; darker is better. The best one has a double frame,
 * those that cannot be told from it a single one.
 */
export function heatChart(
  cells: readonly HeatCell[],
  { x, y, smaller, words = [] }: HeatAxes,
): (inks: Inks) => EChartsCoreOption {
  const along = sorted(cells.map((cell) => cell.x))
  const up = sorted(cells.map((cell) => cell.y))
  const [wordsAlong, wordsUp] = words
  const said = (value: number, of: readonly string[] | null | undefined) => of?.[value] ?? fraction(value)
  const means = cells.map(({ mean }) => mean)
  const [least, most] = [Math.min(...means), Math.max(...means)]
  /** 0 for the worst, 1 for the best. */
  const part = (mean: number) => {
    const share = most > least ? (mean - least) / (most - least) : 1
    return smaller ? 1 - share : share
  }
  const crowded = along.length > 12 || up.length > 14
  return (inks) => {
    const base = houseAxes(inks, { name: '', min: 0, max: 1 }, { type: 'value' })
    const axis = (values: readonly string[], name: string, gap: number) => ({
      type: 'category',
      data: values,
      name,
      nameLocation: 'middle',
      nameGap: gap,
      nameTextStyle: { color: inks('ink'), fontSize: 13 },
      axisLabel: { color: inks('ink-soft'), fontSize: 12, hideOverlap: true },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: inks('rule-strong') } },
    })
    return {
      ...base,
      grid: { left: wordsUp ? 146 : 76, right: 24, top: 24, bottom: 52 },
      xAxis: axis(
        along.map((value) => said(value, wordsAlong)),
        x,
        30,
      ),
      yAxis: axis(
        up.map((value) => said(value, wordsUp)),
        y,
        wordsUp ? 124 : 54,
      ),
      tooltip: {
        ...(base.tooltip as object),
        trigger: 'item',
        formatter: ({ dataIndex }: { dataIndex: number }) => {
          const { x: at, y: and, mean, error, mark } = cells[dataIndex]
          const told = mark === 'best' ? 'the best' : mark === 'alike' ? 'not told from the best' : ''
          return [
            `${x} ${said(at, wordsAlong)}, ${y} ${said(and, wordsUp)}`,
            `${formatNumber(mean, 3)} ± ${formatNumber(error, 3)}`,
            told,
          ]
            .filter(Boolean)
            .join('<br>')
        },
      },
      series: [
        {
          type: 'custom',
          data: cells.map((cell) => ({
            name: heatCellName(cell),
            value: [along.indexOf(cell.x), up.indexOf(cell.y), cell.mean],
          })),
          renderItem: ({ dataIndex }: { dataIndex: number }, api: CustomApi) => {
            const { x: atX, y: atY, mean, mark } = cells[dataIndex]
            const [centreX, centreY] = api.coord([along.indexOf(atX), up.indexOf(atY)])
            const [width, height] = api.size([1, 1])
            const shade = part(mean)
            const frame = (inset: number, line: number) => ({
              type: 'rect',
              shape: {
                x: centreX - width / 2 + inset,
                y: centreY - height / 2 + inset,
                width: width - 2 * inset,
                height: height - 2 * inset,
              },
              style: { fill: 'transparent', stroke: inks('brass-bright'), lineWidth: line },
            })
            return {
              type: 'group',
              children: [
                {
                  type: 'rect',
                  shape: {
                    x: centreX - width / 2 + 1,
                    y: centreY - height / 2 + 1,
                    width: width - 2,
                    height: height - 2,
                  },
                  style: { fill: inks({ from: 'sheet', to: 'ink', part: 0.04 + 0.78 * shade }) },
                },
                ...(mark ? [frame(3, 2.5)] : []),
                ...(mark === 'best' ? [frame(7, 2)] : []),
                ...(crowded
                  ? []
                  : [
                      {
                        type: 'text',
                        x: centreX,
                        y: centreY,
                        style: {
                          text: formatNumber(mean, 2),
                          fill: shade > 0.45 ? inks('sheet') : inks('ink'),
                          fontSize: 12,
                          fontFamily: FONT,
                          align: 'center',
                          verticalAlign: 'middle',
                        },
                      },
                    ]),
              ],
            }
          },
        },
      ],
    }
  }
}

function sorted(values: readonly number[]): number[] {
  return [...new Set(values)].sort((a, b) => a - b)
}
