import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Model } from '../../../core/model/model'
import { ModelBuilder } from '../../../core/model/builder'
import { randomModel } from '../../../core/testing/models'
import { CHANCE_SIDE, isDrawable, layOutGraph, STATE_SIDE, type GraphLayout } from './graph-layout'

const drawn = fc
  .tuple(fc.integer({ min: 0, max: 10_000 }), fc.integer({ min: 2, max: 9 }))
  .map(([seed, states]) => randomModel(seed, states).model)

/** Pairs of nodes whose squares lie on each other. */
function overlaps({ nodes }: GraphLayout): string[] {
  const half = (row: number) => (row < 0 ? STATE_SIDE : CHANCE_SIDE) / 2
  return nodes.flatMap((one, i) =>
    nodes
      .slice(0, i)
      .filter((other) => {
        const room = half(one.row) + half(other.row)
        return Math.abs(one.x - other.x) < room && Math.abs(one.y - other.y) < room
      })
      .map((other) => `${one.key} on ${other.key}`),
  )
}

function outcomesOfRow(model: Model, row: number): number {
  return model.outcomeStart[row + 1] - model.outcomeStart[row]
}

describe('a graph', () => {
  it('draws every state, every action and every outcome once, and nothing on another', () => {
    fc.assert(
      fc.property(drawn, (model) => {
        const layout = layOutGraph(model, {})
        const chancy = Array.from({ length: model.rows }, (_, r) => r).filter(
          (r) => outcomesOfRow(model, r) > 1,
        )
        expect(layout.nodes.slice(0, model.states).map(({ key }) => key)).toEqual([...model.labels])
        expect(layout.nodes.slice(model.states).map(({ row }) => row)).toEqual(chancy)
        expect(layout.edges.length).toBe(model.outcomes + chancy.length)
        expect(
          layout.edges
            .map(({ outcome }) => outcome)
            .filter((outcome) => outcome >= 0)
            .toSorted((a, b) => a - b),
        ).toEqual(Array.from({ length: model.outcomes }, (_, o) => o))
        expect(overlaps(layout)).toEqual([])
        expect(new Set(layout.nodes.map(({ key }) => key)).size).toBe(layout.nodes.length)
      }),
      { numRuns: process.env.LONG ? 2000 : 60 },
    )
  })

  it('leads every edge from the state of its action to where the outcome leads', () => {
    fc.assert(
      fc.property(drawn, (model) => {
        const { nodes, edges, edgeOfRow } = layOutGraph(model, {})
        for (const { from, to, row, outcome } of edges) {
          expect(nodes[from].state).toBe(stateOf(model, row))
          if (outcome >= 0) expect(nodes[to]).toMatchObject({ row: -1, state: model.outcomeState[outcome] })
          else expect(nodes[to].row).toBe(row)
        }
        edgeOfRow.forEach((edge, row) => {
          expect(edges[edge].row).toBe(row)
          expect(edges[edge].from).toBe(stateOf(model, row))
        })
        for (const node of nodes) expect(node.square).toBe(node.row < 0 && model.ending[node.state] === 1)
      }),
      { numRuns: 60 },
    )
  })

  it('fans out edges between the same two nodes, whichever way they run', () => {
    fc.assert(
      fc.property(drawn, (model) => {
        const { edges } = layOutGraph(model, {})
        // As seen from the lower node, no two bend alike.
        const aside = edges.map(({ from, to, bend }) =>
          from === to
            ? `${from} itself ${bend}`
            : `${Math.min(from, to)} ${Math.max(from, to)} ${from < to ? bend : -bend}`,
        )
        expect(new Set(aside).size).toBe(edges.length)
      }),
      { numRuns: 60 },
    )
  })

  it('keeps what was put somewhere by hand, and frames it', () => {
    const { model } = randomModel(7, 5)
    const free = layOutGraph(model, {})
    const chance = free.nodes.find(({ row }) => row >= 0)!
    const put = layOutGraph(model, { s1: [-900, 40], [chance.key]: [300, 1700], 'not there': [0, 0] })
    expect(put.nodes[1]).toMatchObject({ x: -900, y: 40 })
    expect(put.nodes.find(({ key }) => key === chance.key)).toMatchObject({ x: 300, y: 1700 })
    put.nodes.forEach((node, i) => {
      if (i !== 1 && node.key !== chance.key)
        expect(node).toMatchObject({ x: free.nodes[i].x, y: free.nodes[i].y })
      expect(node.x - STATE_SIDE / 2).toBeGreaterThan(put.left)
      expect(node.x + STATE_SIDE / 2).toBeLessThan(put.left + put.width)
      expect(node.y - STATE_SIDE / 2).toBeGreaterThan(put.top)
      expect(node.y + STATE_SIDE / 2).toBeLessThan(put.top + put.height)
    })
  })

  it('is not upset by states called like what every object has', () => {
    const builder = new ModelBuilder()
    const [one, other] = ['constructor', '__proto__'].map((label) => builder.state(label))
    builder.outcome(builder.row(one, builder.action('toString')), other, 1, 0)
    const model = builder.build({ starts: [{ state: one, weight: 1 }], cap: 10 })
    for (const { x, y } of layOutGraph(model, {}).nodes) {
      expect(Number.isFinite(x)).toBe(true)
      expect(Number.isFinite(y)).toBe(true)
    }
  })

  it('is drawn up to 60 states and 300 outcomes', () => {
    const line = (states: number, actions: number) => {
      const builder = new ModelBuilder()
      for (let s = 0; s < states; s++) builder.state(`s${s}`)
      for (let s = 0; s + 1 < states; s++)
        for (let a = 0; a < actions; a++)
          builder.outcome(builder.row(s, builder.action(`a${a}`)), s + 1, 1, a)
      return builder.build({ starts: [{ state: 0, weight: 1 }], cap: 10 })
    }
    expect(isDrawable(line(60, 5))).toBe(true)
    expect(isDrawable(line(61, 1))).toBe(false)
    expect(isDrawable(line(51, 6))).toBe(true)
    expect(isDrawable(line(52, 6))).toBe(false)
  })
})

function stateOf(model: Model, row: number): number {
  return model.rowStart.findIndex((first, s) => first <= row && row < model.rowStart[s + 1])
}
