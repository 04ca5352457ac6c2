import { describe, expect, it } from 'vitest'
import { boxChart, type Box } from './box-chart'

const BOXES: Box[] = [
  { title: 'one', look: 0, runs: [0, 1, 2, 3, 4], values: Float64Array.of(1, 2, 3, 4, 9) },
  { title: 'other', look: 1, runs: [7], values: Float64Array.of(5) },
]

interface Shape {
  readonly type: string
  readonly shape?: Record<string, number>
  readonly style: { readonly text?: string }
}
interface Option {
  readonly xAxis: { min: number; max: number }
  readonly yAxis: { min: number; max: number }
  readonly series: readonly {
    readonly type: string
    readonly data: readonly { readonly name: string; readonly value: readonly number[] }[]
    renderItem?(params: unknown, api: { coord(point: number[]): number[] }): { children: Shape[] }
  }[]
}
const option = (levels: Parameters<typeof boxChart>[2] = []) =>
  boxChart(BOXES, 'score', levels)((colour) => String(colour)) as unknown as Option

describe('boxes of runs', () => {
  it('go from quartile to quartile, with whiskers to the ends and the median in them', () => {
    const { children } = option().series[0].renderItem!(null, { coord: (point) => point })
    expect(children.find(({ type }) => type === 'text')!.style.text).toBe('one')
    const box = children.find(({ type }) => type === 'rect')!.shape!
    expect([box.x, box.x + box.width]).toEqual([2, 4])
    const lines = children.flatMap(({ type, shape }) => (type === 'line' ? [[shape!.x1, shape!.x2]] : []))
    expect(lines.slice(0, 2)).toEqual([
      [1, 2],
      [4, 9],
    ])
    expect(lines).toContainEqual([3, 3])
  })

  it('have a dot for every run, in its row, and a diamond for the mean', () => {
    const { series } = option()
    const [, dots, mean, , other] = series
    expect(dots.data.map(({ name, value }) => [name, value[0]])).toEqual([
      ['one, run 0', 1],
      ['one, run 1', 2],
      ['one, run 2', 3],
      ['one, run 3', 4],
      ['one, run 4', 9],
    ])
    for (const { value } of dots.data) expect(Math.abs(value[1])).toBeLessThan(0.2)
    expect(mean.data[0].value[0]).toBeCloseTo(19 / 5, 12)
    expect(other.data[0].name).toBe('other, run 7')
  })

  it('end their axis on whole steps, the optimum within it', () => {
    expect(option().xAxis).toMatchObject({ min: 0, max: 10 })
    expect(option([{ title: 'optimum', value: 19 }]).xAxis.max).toBeGreaterThanOrEqual(19)
    expect(option().yAxis).toMatchObject({ min: -0.5, max: 1.5 })
  })
})
