import { describe, expect, it } from 'vitest'
import { CanvasPen, cssColour, type Palette } from './canvas-pen'
import { INKS, type Pen } from './pen'
import { SvgPen } from './svg-pen'

const PALETTE = Object.fromEntries(INKS.map((ink, i) => [ink, [i, 2 * i, 100 + i]])) as unknown as Palette

/** A context that notes what is done with it: each finished shape with the colours in force. */
function noting() {
  const notes: unknown[][] = []
  const state: Record<string, unknown> = {}
  const context = new Proxy(state, {
    get: (_, name: string) =>
      name in state
        ? state[name]
        : (...values: unknown[]) => {
            const inForce =
              name === 'fill' || name === 'fillText'
                ? [state.fillStyle, state.globalAlpha]
                : name === 'stroke' || name === 'strokeText'
                  ? [state.strokeStyle, state.lineWidth, state.globalAlpha]
                  : []
            notes.push([name, ...values, ...inForce])
          },
    set: (_, name: string, value) => {
      state[name] = value
      return true
    },
  })
  return {
    notes,
    state,
    pen: new CanvasPen(context as unknown as CanvasRenderingContext2D, PALETTE, 'Test'),
  }
}

describe('the pen of the board', () => {
  it('draws a shape with its fill, its line and how faint it is, and leaves nothing faint behind', () => {
    const { notes, pen, state } = noting()
    pen.rectangle(1, 2, 30, 40, { fill: 'ink', stroke: 'brass', width: 3, opacity: 0.5 })
    expect(notes).toEqual([
      ['beginPath'],
      ['rect', 1, 2, 30, 40],
      ['fill', cssColour(PALETTE, 'ink'), 0.5],
      ['stroke', cssColour(PALETTE, 'brass'), 3, 0.5],
    ])
    expect(state.globalAlpha).toBe(1)
  })

  it('draws lines, polygons that are closed, circles and arcs', () => {
    const { notes, pen } = noting()
    pen.line(0, 1, 2, 3, { stroke: 'ink' })
    pen.polygon([0, 0, 4, 0, 4, 4], { fill: 'plum' })
    pen.circle(5, 6, 7, { fill: 'low' })
    pen.arc(5, 6, 7, 1, 2, { stroke: 'high' })
    const shapes = notes.filter(([name]) => name !== 'fill' && name !== 'stroke' && name !== 'beginPath')
    expect(shapes).toEqual([
      ['moveTo', 0, 1],
      ['lineTo', 2, 3],
      ['lineTo', 0, 0],
      ['lineTo', 4, 0],
      ['lineTo', 4, 4],
      ['closePath'],
      ['arc', 5, 6, 7, 0, 2 * Math.PI],
      ['arc', 5, 6, 7, 1, 2],
    ])
    expect(notes.filter(([name]) => name === 'fill')).toHaveLength(2)
    expect(notes.filter(([name]) => name === 'stroke')).toHaveLength(2)
  })

  it('writes with a rim below the letters, at either side, and upwards', () => {
    const { notes, pen, state } = noting()
    pen.text(10, 20, 'word', { size: 10, colour: 'ink', rim: 'sheet', align: 'right', bold: true })
    expect(notes.map(([name]) => name)).toEqual(['strokeText', 'fillText'])
    expect(notes[0].slice(1, 4)).toEqual(['word', 10, 20.6])
    expect(state).toMatchObject({ textAlign: 'right', font: '650 10px Test' })
    notes.length = 0
    pen.text(10, 20, 'up', { size: 10, colour: 'ink', upwards: true })
    expect(notes).toEqual([
      ['save'],
      ['translate', 10, 20],
      ['rotate', -Math.PI / 2],
      ['fillText', 'up', 0, 0.6, cssColour(PALETTE, 'ink'), undefined],
      ['restore'],
    ])
    expect(state.textAlign).toBe('center')
  })

  it('mixes two colours in proportion, as the pen of files does', () => {
    const [sheet, high] = [PALETTE.sheet, PALETTE.high]
    const part = 0.25
    const mixed = sheet.map((x, i) => Math.round(x + (high[i] - x) * part))
    expect(cssColour(PALETTE, { from: 'sheet', to: 'high', part })).toBe(`rgb(${mixed.join(',')})`)
    expect(cssColour(PALETTE, { from: 'sheet', to: 'high', part: 0 })).toBe(cssColour(PALETTE, 'sheet'))
    const { notes, pen } = noting()
    pen.rectangle(0, 0, 1, 1, { fill: { from: 'sheet', to: 'high', part } })
    expect(notes).toContainEqual(['fill', `rgb(${mixed.join(',')})`, 1])
  })

  it('does all that the pen of files does', () => {
    const methods = (pen: Pen) => Object.getOwnPropertyNames(Object.getPrototypeOf(pen)) as (keyof Pen)[]
    const { pen } = noting()
    for (const name of ['rectangle', 'polygon', 'line', 'circle', 'arc', 'mosaic', 'text'] as const) {
      expect(methods(pen)).toContain(name)
      expect(methods(new SvgPen())).toContain(name)
    }
  })
})
