import { describe, expect, it } from 'vitest'
import { bandChart, fraction, runName, type BandLine } from './band-chart'
import { lineLook } from './line-looks'

const LINE: BandLine = {
  title: 'greedy',
  look: 0,
  x: [1, 2, 3],
  middle: [0, 0.62, NaN],
  low: [-0.1, 0.42, NaN],
  high: [0.1, 0.82, NaN],
}
const AXES = {
  x: { name: 'pull', min: 0, max: 3 },
  along: 'even',
  y: 'reward',
  share: false,
  bands: true,
} as const

interface Option {
  xAxis: { type: string; axisLabel: { formatter(value: number): string } }
  yAxis: { min: number; max: number }
  series: {
    type: string
    data: number[][]
    renderItem?(params: unknown, api: { coord(point: number[]): number[] }): { shape: { points: number[][] } }
  }[]
}
const option = (lines: BandLine[], axes: Parameters<typeof bandChart>[1]) =>
  bandChart(lines, axes)((colour) => JSON.stringify(colour)) as unknown as Option

describe('the picture of many agents', () => {
  it('draws what is known, within its interval', () => {
    const [band, line] = option([LINE], AXES).series
    expect(line.data).toEqual([
      [1, 0],
      [2, 0.62],
    ])
    const { points } = band.renderItem!(null, { coord: (point) => point }).shape
    expect(points).toEqual([
      [1, 0.1],
      [2, 0.82],
      [2, 0.42],
      [1, -0.1],
    ])
    expect(option([LINE], { ...AXES, bands: false }).series).toHaveLength(1)
  })

  it('ends its axis on whole steps, and that of shares at 0 and 1', () => {
    const { min, max } = option([LINE], AXES).yAxis
    expect([min, max]).toEqual([0, expect.closeTo(0.7, 12)])
    expect(option([LINE], { ...AXES, share: true }).yAxis).toMatchObject({ min: 0, max: 1 })
  })

  it('has a line across for what is the same everywhere, within its axis', () => {
    const { series, yAxis } = option([LINE], { ...AXES, levels: [{ title: 'optimum', value: 2 }] })
    expect(series[0].data).toEqual([
      [0, 2],
      [3, 2],
    ])
    expect(yAxis.max).toBeGreaterThanOrEqual(2)
  })

  it('leaves an optional one out where it lies beyond the lines', () => {
    const levels = [
      { title: 'random', value: -9, optional: true },
      { title: 'near', value: 0.5, optional: true },
    ]
    const { series, yAxis } = option([LINE], { ...AXES, levels })
    expect(series.map(({ data }) => data[0])).toContainEqual([0, 0.5])
    expect(series).toHaveLength(3)
    expect(yAxis.min).toBe(0)
  })

  it('has other lines in a plot beneath, and single runs that a click names', () => {
    const singles = [{ run: 7, y: [1, 2, 3] }]
    const { series, yAxis } = option([{ ...LINE, singles }], {
      ...AXES,
      beneath: { title: 'exploration', lines: [{ ...LINE, middle: [1, 1, 1] }] },
    }) as unknown as { series: { name?: string; yAxisIndex?: number }[]; yAxis: { name: string }[] }
    expect(yAxis.map(({ name }) => name)).toEqual(['reward', 'exploration'])
    expect(series.map(({ yAxisIndex }) => yAxisIndex)).toEqual([0, 0, 0, 1])
    expect(series[1].name).toBe(runName('greedy', 7))
  })

  it('marks a setting by fractions', () => {
    const { xAxis } = option([LINE], { ...AXES, along: 'doublings' })
    expect(xAxis.type).toBe('log')
    expect([1 / 128, 0.5, 1, 4].map(xAxis.axisLabel.formatter)).toEqual(['1/128', '1/2', '1', '4'])
    expect([0.3, 0.05, 0].map(fraction)).toEqual(['0.3', '0.05', '0'])
  })

  it('tells eighteen lines apart', () => {
    const looks = Array.from({ length: 18 }, (_, i) => lineLook(i))
    expect(new Set(looks.map(({ colour, dash }) => JSON.stringify([colour, dash]))).size).toBe(18)
  })
})
