import { describe, expect, it } from 'vitest'
import { heatChart, type HeatCell } from './heat-chart'

const CELLS: HeatCell[] = [
  { x: 0.25, y: 0, mean: 1, error: 0.1, mark: null },
  { x: 0.5, y: 0, mean: 5, error: 0.1, mark: 'best' },
  { x: 0.25, y: 0.3, mean: 3, error: 0.1, mark: 'alike' },
]

interface Option {
  readonly xAxis: { data: string[] }
  readonly yAxis: { data: string[] }
  readonly tooltip: { formatter(at: { dataIndex: number }): string }
  readonly series: readonly {
    data: { name: string; value: number[] }[]
    renderItem(
      at: { dataIndex: number },
      api: object,
    ): { children: { type: string; style: { fill?: string; stroke?: string; text?: string } }[] }
  }[]
}
const option = (smaller: boolean) =>
  heatChart(CELLS, { x: 'rate', y: 'exploration', smaller })((colour) =>
    JSON.stringify(colour),
  ) as unknown as Option
const api = { coord: ([x, y]: number[]) => [100 * x, 100 * y], size: () => [100, 100] }

describe('a map over two settings', () => {
  it('has a place for every value, in order, and a name for every cell', () => {
    const { xAxis, yAxis, series } = option(false)
    expect([xAxis.data, yAxis.data]).toEqual([
      ['1/4', '1/2'],
      ['0', '0.3'],
    ])
    expect(series[0].data.map(({ name }) => name)).toEqual(['0.25 0', '0.5 0', '0.25 0.3'])
  })

  it('shades by the score, the best darkest, and frames what cannot be told from it', () => {
    const shades = (smaller: boolean) =>
      CELLS.map((_, dataIndex) => {
        const { children } = option(smaller).series[0].renderItem({ dataIndex }, api)
        return [
          (JSON.parse(children[0].style.fill!) as { part: number }).part,
          children.filter(({ style }) => style.stroke).length,
        ]
      })
    expect(shades(false)).toEqual([
      [0.04, 0],
      [expect.closeTo(0.82, 9), 2],
      [expect.closeTo(0.43, 9), 1],
    ])
    expect(shades(true)[0][0]).toBeCloseTo(0.82, 9)
  })

  it('says each cell in words', () => {
    expect(option(false).tooltip.formatter({ dataIndex: 2 })).toBe(
      'rate 1/4, exploration 0.3<br>3 ± 0.1<br>not told from the best',
    )
  })
})
