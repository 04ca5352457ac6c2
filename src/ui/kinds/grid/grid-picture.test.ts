import { pictureScale, ringScale } from '../../board/scales'
import { describe, expect, it } from 'vitest'
import { compileGrid } from '../../../core/kinds/grid/compile'
import { gridDocument } from '../../../core/testing/models'
import { describeCell, drawGrid, type GridPicture } from './grid-picture'
import { SvgPen } from '../../board/svg-pen'
import { cellNumbers, valueColour, valueScale } from '../../board/value-scale'

const { grid } = gridDocument(['.:#', '...'], {
  starts: [{ at: 'A2', weight: 1 }],
  endings: [{ at: 'C2', reward: -5, name: 'stairs <b>' }],
})
const compiled = compileGrid(grid, 100)
const values = Float64Array.from({ length: compiled.model.states }, (_, s) => s - 1)
const picture: GridPicture = {
  grid,
  compiled,
  overlay: { values, policy: new Float64Array(compiled.model.rows).fill(0.25) },
  layers: new Set(['values', 'policy']),
}

describe('drawGrid', () => {
  it('draws each thing once: walls, endings with their reward, needles, numbers', () => {
    const pen = new SvgPen()
    drawGrid(pen, { ...picture, agent: 0, selected: 1, ahead: [3] }, 60)
    const svg = pen.svg(180, 120, 'A "board"')
    expect(svg).toContain('aria-label="A &quot;board&quot;"')
    expect(svg).toContain('>−5</text>')
    // Four open cells that are no ending: four needles each, and a number each.
    expect(svg.match(/<polygon/g)!.length).toBe(4 * 4 + 2 + 2)
    for (const number of ['−1.00', '0.00', '1.00', '2.00']) expect(svg).toContain(`>${number}</text>`)
    expect(svg).not.toMatch(/NaN|undefined|Infinity/)
  })

  it('draws a half-made grid and tiny cells without fuss', () => {
    for (const side of [2, 7, 15, 25, 90]) {
      const pen = new SvgPen()
      drawGrid(pen, { ...picture, compiled: side === 2 ? undefined : compiled }, side)
      expect(pen.svg(1, 1, '')).not.toMatch(/NaN|undefined/)
    }
  })

  it('leaves values out that are no numbers', () => {
    const pen = new SvgPen()
    drawGrid(pen, { ...picture, overlay: { values: new Float64Array(compiled.model.states).fill(NaN) } }, 60)
    expect(pen.svg(1, 1, '')).not.toContain('NaN')
    expect(pictureScale({ ...picture, overlay: { values: Float64Array.of(NaN) } })).toBeUndefined()
  })
})

it('draws values and action values in one scale, and preferences in their own', () => {
  const rowValues = new Float64Array(compiled.model.rows).fill(50)
  const layers = new Set(['values', 'actionValues'] as const)
  const both = { ...picture, layers, overlay: { values, rowValues } }
  expect(pictureScale(both)).toEqual({ low: -1, middle: 0, high: 50 })
  expect(ringScale(both)).toEqual(pictureScale(both))
  const apart = { ...both, overlay: { values, rowValues, preferences: true } }
  expect(pictureScale(apart)).toEqual({ low: -1, middle: 0, high: 3 })
  expect(ringScale(apart)).toEqual({ low: 50, middle: 50, high: 50 })
  expect(ringScale(picture)).toBeUndefined()
})

it('describes cells in words', () => {
  const format = String
  expect(describeCell(picture, 2, format)).toBe('C1: wall')
  expect(describeCell(picture, 5, format)).toBe('C2: ending “stairs <b>”, reward −5')
  expect(describeCell(picture, 1, format)).toMatch(
    /^B1: carpet, costs 2; value 0; policy north 0.25, east 0.25/,
  )
  expect(describeCell(picture, 3, format)).toMatch(/^A2: start; parquet/)
})

describe('the value scale', () => {
  it('puts its midpoint at 0 when values lie on both sides, else half-way', () => {
    expect(valueScale([[-2, 6, NaN]])).toEqual({ low: -2, middle: 0, high: 6 })
    expect(valueScale([[2], [6]])).toEqual({ low: 2, middle: 4, high: 6 })
    expect(valueScale([[NaN]])).toBeUndefined()
  })

  it('is paper at the midpoint and full at both ends, also for a single value', () => {
    const scale = { low: -2, middle: 0, high: 6 }
    expect(valueColour(scale, 0)).toMatchObject({ part: 0 })
    expect(valueColour(scale, 6)).toEqual({ from: 'sheet', to: 'high', part: expect.closeTo(0.8, 9) })
    expect(valueColour(scale, -2)).toEqual({ from: 'sheet', to: 'low', part: expect.closeTo(0.8, 9) })
    expect(valueColour({ low: 3, middle: 3, high: 3 }, 3)).toMatchObject({ part: 0 })
  })

  it('writes as many places as fit', () => {
    expect(cellNumbers([-12.345, 3], 6)(-12.345)).toBe('−12.35')
    expect(cellNumbers([-12.345, 3], 5)(-12.345)).toBe('−12.3')
    expect(cellNumbers([-12345.6], 4)(-12345.6)).toBe('−12346')
    expect(cellNumbers([0], 5)(-0.001)).toBe('0.00')
  })
})

it('draws cells too small for anything else as one colour each, walls, tints and what turned among them', () => {
  const document = gridDocument(['..#', '...'], { endings: [{ at: 'A1', reward: 1, name: '' }] })
  const { model, layout } = compileGrid(document.grid, 100)
  const values = Float64Array.from({ length: model.states }, (_, s) => s)
  const turned = new Uint8Array(model.states)
  turned[model.labels.indexOf('C2')] = 1
  const colours: unknown[] = []
  const pen = new SvgPen()
  pen.mosaic = ({ x, y, cellWidth, cellHeight, columns, rows, colour }) => {
    expect([x, y, cellWidth, cellHeight, columns, rows]).toEqual([0, 0, 2, 2, 3, 2])
    for (let cell = 0; cell < 6; cell++) colours.push(colour(cell))
  }
  drawGrid(
    pen,
    {
      grid: document.grid,
      compiled: { model, layout },
      overlay: { values, turned },
      layers: new Set(['values'] as const),
    },
    2,
  )
  expect(colours[2]).toBe('wall')
  expect(colours[5]).toBe('plum')
  expect(colours[1]).toMatchObject({ from: 'sheet', to: 'low' })
  expect(colours[4]).toMatchObject({ from: 'sheet', to: 'high' })
})

it('writes a mosaic as rectangles, neighbours of one colour together', () => {
  const pen = new SvgPen()
  pen.mosaic({
    x: 10,
    y: 20,
    cellWidth: 4,
    cellHeight: 4,
    columns: 3,
    rows: 2,
    colour: (cell) => (cell === 4 ? 'plum' : 'sheet'),
  })
  const svg = pen.svg(30, 30, 'tiles')
  expect(svg.match(/<rect /g)).toHaveLength(4)
  expect(svg).toContain('<rect x="10" y="20" width="12" height="4" fill="var(--sheet)"/>')
  expect(svg).toContain('<rect x="14" y="24" width="4" height="4" fill="var(--plum)"/>')
})
