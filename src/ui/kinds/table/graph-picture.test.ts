import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../../core/environment/compile'
import { newTable, tableEnvironment } from '../../../core/kinds/table/blank'
import { CHANCE_SIDE, isDrawable, layOutGraph, STATE_SIDE } from './graph-layout'
import { drawGraph, edgePath, frameGraph } from './graph-picture'
import { SvgPen } from '../../board/svg-pen'

const { model } = compileEnvironment(newTable('t'))
// flickers, dark, shines, over; mend and leave in “flickers” are chance, the rest is sure.

describe('layOutGraph', () => {
  it('has a node for every state and for every action with a choice of outcomes', () => {
    const { nodes, edges, edgeOfRow } = layOutGraph(model, {})
    expect(nodes.slice(0, 4).map(({ key }) => key)).toEqual([...model.labels])
    expect(nodes.slice(4).map(({ key }) => key)).toEqual(['flickers\nmend', 'flickers\nleave'])
    expect(edges).toHaveLength(2 + 4 + 2)
    expect(edgeOfRow.map((edge) => edges[edge].row)).toEqual([0, 1, 2, 3])
  })

  it('keeps nodes apart, and those that were put somewhere where they were put', () => {
    const { nodes } = layOutGraph(model, { dark: [-300, 40], 'flickers\nmend': [7, 8], gone: [1, 1] })
    expect(nodes.find(({ key }) => key === 'dark')).toMatchObject({ x: -300, y: 40 })
    expect(nodes.find(({ key }) => key === 'flickers\nmend')).toMatchObject({ x: 7, y: 8 })
    const free = layOutGraph(model, {}).nodes
    for (const [i, one] of free.entries())
      for (const other of free.slice(i + 1))
        expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThan(
          one.row < 0 && other.row < 0 ? STATE_SIDE : CHANCE_SIDE,
        )
  })

  it('parts edges between the same two nodes, and loops of one state', () => {
    const twin = compileEnvironment(
      tableEnvironment('t', [
        ['a', 'one', 'b', 1, 0],
        ['a', 'two', 'b', 1, 0],
        ['b', 'back', 'a', 1, 0],
        ['b', 'stay', 'b', 1, 0],
        ['b', 'wait', 'b', 1, 0],
      ]),
    ).model
    const layout = layOutGraph(twin, {})
    const middles = layout.edges.map((edge) => {
      const path = edgePath(layout, edge)
      return path[path.length >> 1].map((x) => Math.round(x)).join()
    })
    expect(new Set(middles).size).toBe(5)
  })
})

it('fits the room, and says in its own glyphs what the policy picks', () => {
  const layout = layOutGraph(model, {})
  const frame = frameGraph(layout, 800, 500)
  for (const { x, y } of layout.nodes) {
    expect(frame.left + x * frame.scale).toBeGreaterThan(0)
    expect(frame.left + x * frame.scale).toBeLessThan(800)
    expect(frame.top + y * frame.scale).toBeLessThan(500)
  }
  const svg = (policy?: Float64Array) => {
    const pen = new SvgPen()
    drawGraph(
      pen,
      {
        model,
        layout,
        overlay: policy && { values: Float64Array.of(1, 2, 3, 0), policy },
        layers: new Set(['policy', 'values']),
      },
      frame,
    )
    return pen.svg(800, 500, 'graph')
  }
  for (const text of ['flickers', 'mend', '0.7', '+10']) expect(svg()).toContain(`>${text}<`)
  // A needle for each action that is picked: two of equal chance in the first state, one in each other.
  const needles = (picture: string) => picture.match(/<polygon/g)!.length
  expect(needles(svg(Float64Array.of(0.5, 0.5, 1, 1))) - needles(svg())).toBe(4)
})

it('draws no thicket', () => {
  const many = Array.from({ length: 61 }, (_, i) => [`s${i}`, 'go', `s${i + 1}`, 1, 0] as const)
  expect(isDrawable(compileEnvironment(tableEnvironment('t', many)).model)).toBe(false)
  expect(isDrawable(model)).toBe(true)
})
