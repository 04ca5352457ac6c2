import { describe, expect, it } from 'vitest'
import { rulebook } from '../../core/testing/rulebooks'
import { plainDial } from './dial'
import { arcReach, dialAngles } from './glyphs'
import { describeStates } from './describe-states'
import { distinctCells, layOut, resolveView, statesOfCell, sumUp } from './map-layout'
import { drawMap, frameMap } from './map-picture'
import type { Colour } from './pen'
import { SvgPen } from './svg-pen'

const { model, space } = rulebook(`state shift in day, night
state left from 0 to 4
state open yes or no
start left = 2, shift = day, open = yes
action sell when left > 0
action shut
chance sold ~ coin(0.5)
next left = left - (if action = sell and sold then 1 else 0)
next open = if action = shut then not open else open
next shift = if shift = day then night else day
end when left = 0`)
const dial = plainDial(model.actions)
const VIEW = { across: null, up: null, others: {} }
const label = (states: Int32Array) => Array.from(states, (s) => model.labels[s])

describe('the view', () => {
  it('takes by itself the variables with the most values, numbers first', () => {
    expect(resolveView(space, VIEW)).toEqual({ across: 1, up: 0, others: [-1, -1, -1] })
  })

  it('takes what is asked for, and forgets what is not there any more', () => {
    expect(resolveView(space, { across: 'open', up: 'left', others: { shift: 'night' } })).toEqual({
      across: 2,
      up: 1,
      others: [1, -1, -1],
    })
    expect(resolveView(space, { across: 'gone', up: 'left', others: { shift: 'noon' } })).toEqual({
      across: 0,
      up: 1,
      others: [-1, -1, -1],
    })
    expect(resolveView(space, { across: 'left', up: 'left', others: {} })).toMatchObject({ across: 1, up: 0 })
  })
})

describe('the layout', () => {
  const all = layOut(space, model.states, resolveView(space, VIEW))

  it('puts every state into its cell, the first value at the left and at the bottom', () => {
    expect([all.columns, all.rows]).toEqual([5, 2])
    expect(label(statesOfCell(all, 5 + 2)).sort()).toEqual([
      'shift day, left 2, open no',
      'shift day, left 2, open yes',
    ])
    expect(label(statesOfCell(all, 2)).every((each) => each.startsWith('shift night, left 2'))).toBe(true)
    expect(statesOfCell(all, 4)).toHaveLength(0)
    expect(distinctCells(all)).toBe(6)
  })

  it('shows one value of the others when it is set', () => {
    const open = layOut(space, model.states, resolveView(space, { ...VIEW, others: { open: 'yes' } }))
    expect(label(statesOfCell(open, 5 + 2))).toEqual(['shift day, left 2, open yes'])
    expect(open.cellState).toHaveLength(all.cellState.length / 2)
  })

  it('sums a cell up: means of values, shares of actions, sums of visits; endings do not count', () => {
    const values = Float64Array.from({ length: model.states }, (_, s) => s)
    const policy = new Float64Array(model.rows)
    for (let s = 0; s < model.states; s++) if (!model.ending[s]) policy[model.rowStart[s]] = 1
    const rowVisits = new Float64Array(model.rows).fill(2)
    const states = statesOfCell(all, 5 + 2)
    const sum = sumUp(
      model,
      states,
      { values, policy, rowValues: policy, rowVisits },
      new Set(model.startState),
    )
    expect(sum).toMatchObject({ value: (states[0] + states[1]) / 2, visits: 8, ending: false, start: true })
    expect([...sum.chances!]).toEqual([1, 0])
    expect([...sum.actionValues!]).toEqual([1, 0])
    expect(sumUp(model, statesOfCell(all, 5), { values }, new Set())).toMatchObject({
      value: undefined,
      ending: true,
    })
  })
})

describe('the picture', () => {
  const layout = layOut(space, model.states, resolveView(space, VIEW))
  const values = Float64Array.from({ length: model.states }, (_, s) => s)
  const overlay = {
    values,
    rowValues: new Float64Array(model.rows).fill(1),
    policy: new Float64Array(model.rows).fill(0.5),
    rowVisits: new Float64Array(model.rows).fill(3),
  }

  it('fits any room, with axes that name the variables and their values', () => {
    for (const [width, height] of [
      [600, 400],
      [90, 60],
      [1, 1],
    ]) {
      const frame = frameMap(layout, width, height)
      const pen = new SvgPen()
      drawMap(
        pen,
        {
          model,
          dial,
          layout,
          overlay,
          layers: new Set(['values', 'policy', 'actionValues', 'visits']),
          selected: 0,
          agent: 1,
          ahead: [2],
        },
        frame,
      )
      const svg = pen.svg(frame.width, frame.height, 'map')
      expect(svg).not.toMatch(/NaN|undefined|Infinity/)
      expect(svg).toContain('>left →</text>')
      expect(svg).toContain('>shift →</text>')
      expect(svg).toContain('>day</text>')
    }
  })

  it.each([['values'], ['visits'], ['policy'], []] as const)(
    'gives cells too small for anything else the colours that larger ones have (layers: %s)',
    (...on) => {
      const picture = { model, dial, layout, overlay, layers: new Set(on) }
      const tiles: Colour[] = []
      const tiny = new SvgPen()
      tiny.mosaic = ({ columns, rows, colour }) => {
        for (let cell = 0; cell < columns * rows; cell++) tiles.push(colour(cell))
      }
      drawMap(tiny, picture, { ...frameMap(layout, 90, 60), cellWidth: 4, cellHeight: 4 })
      const fills: Colour[] = []
      const larger = new SvgPen()
      larger.rectangle = (_x, _y, _width, _height, { fill }) => {
        if (fill) fills.push(fill)
      }
      drawMap(larger, picture, { ...frameMap(layout, 90, 60), cellWidth: 6, cellHeight: 6 })
      expect(tiles).toHaveLength(10)
      expect(tiles).toEqual(fills)
    },
  )

  it('has no upward axis for a single variable, and thins its ticks', () => {
    const line = rulebook('state a from 0 to 300\nstart a = 0\naction go\nnext a = min(300, a + 1)')
    const only = layOut(line.space, line.model.states, resolveView(line.space, VIEW))
    const frame = frameMap(only, 600, 200)
    const pen = new SvgPen()
    drawMap(pen, { model: line.model, dial: plainDial(line.model.actions), layout: only }, frame)
    const ticks = [...pen.svg(1, 1, '').matchAll(/>(\d+)<\/text>/g)].map(([, text]) => Number(text))
    expect(ticks[0]).toBe(0)
    expect(ticks.length).toBeGreaterThan(5)
    expect(ticks.length).toBeLessThan(30)
    expect(new Set(ticks.slice(1).map((tick, i) => tick - ticks[i])).size).toBe(1)
  })

  it('says what lies under the pointer', () => {
    const format = (x: number) => x.toFixed(1)
    expect(describeStates(model, new Int32Array(), overlay, format)).toContain('No state is here')
    expect(
      describeStates(model, Int32Array.of(model.startState[0]), { values, policy: overlay.policy }, format),
    ).toBe('shift day, left 2, open yes: start; value 0.0; policy sell 0.5, shut 0.5')
    expect(describeStates(model, Int32Array.of(0, 1), overlay, format)).toContain(
      '2 states, from shift day, left 2, open yes; mean value',
    )
  })
})

it('turns needles like a gauge, and like a compass where actions are directions', () => {
  const degrees = (actions: string[]) =>
    dialAngles(actions).map((angle) => Math.round((angle * 180) / Math.PI))
  expect(degrees(['only'])).toEqual([-90])
  expect(degrees(['a', 'b', 'c'])).toEqual([-180, -90, 0])
  expect(degrees(['a', 'b', 'c', 'd', 'e'])).toEqual([-225, -157, -90, -22, 45])
  expect(degrees(['north', 'east'])).toEqual([-90, 0])
})

it('leaves every arc of a ring the same room, whichever of them are drawn', () => {
  const degrees = (actions: string[]) => Math.round((arcReach(dialAngles(actions)) * 180) / Math.PI)
  expect(degrees(['north', 'east', 'south', 'west'])).toBe(45)
  expect(degrees(['east', 'west'])).toBe(90)
  // A gauge from the lower left over the top: four places 90 degrees apart, two as well.
  expect(degrees(['a', 'b', 'c', 'd'])).toBe(45)
  expect(degrees(['a', 'b'])).toBe(45)
  expect(degrees(['a'])).toBe(180)
})
