import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gridDocument } from '../../testing/models'
import { checkGridShape } from './check-grid'
import { compileGrid } from './compile'
import { DIRECTION_NAMES } from './directions'
import type { Grid } from './document'
import { emptyGrid } from './empty-grid'
import {
  lineCells,
  paintCell,
  paintCells,
  patchCells,
  regionCells,
  regionOf,
  resizeGrid,
  type Brush,
} from './edit'
import { copyRegion, mirrorGrid, pastePatch, turnGrid } from './transform'

const grid = gridDocument(['..#', ':..'], {
  starts: [{ at: 'A1', weight: 2 }],
  endings: [{ at: 'C2', reward: 5, name: 'door' }],
}).grid
const NO_EDGES = { left: 0, top: 0, right: 0, bottom: 0 }

describe('paintCell', () => {
  it('puts each brush down, and takes away what was in its place', () => {
    expect(paintCell(grid, 0, 0, { type: 'wall' })).toMatchObject({ floor: ['#.#', ':..'], starts: [] })
    expect(paintCell(grid, 2, 1, { type: 'start', weight: 3 })).toMatchObject({
      endings: [],
      starts: [grid.starts[0], { at: 'C2', weight: 3 }],
    })
    expect(paintCell(grid, 2, 0, { type: 'ending', reward: -3 })).toMatchObject({ floor: ['...', ':..'] })
    expect(paintCell(grid, 0, 1, { type: 'erase' }).floor).toEqual(['..#', '...'])
    expect(paintCell(grid, 0, 0, { type: 'ground', symbol: ':' })).toMatchObject({
      floor: [':.#', ':..'],
      starts: grid.starts,
    })
    expect(paintCell(grid, 1, 0, { type: 'jump', to: 'A2' }).jumps).toEqual([{ at: 'B1', to: 'A2' }])
  })

  it('lays draughts under what one can stand on, and nothing else', () => {
    const draught = { type: 'draught', toward: 'east', strength: 2, chance: 0.5 } as const
    expect(paintCell(grid, 0, 0, draught)).toMatchObject({ starts: grid.starts, draughts: [{ at: 'A1' }] })
    const blown = paintCell(grid, 2, 1, draught)
    expect(blown).toMatchObject({ endings: [], draughts: [{ at: 'C2', strength: 2 }] })
    expect(paintCell(blown, 2, 1, { type: 'bonus', reward: 1, once: true })).toMatchObject({
      draughts: [{ at: 'C2' }],
      bonuses: [{ at: 'C2' }],
    })
    expect(paintCell(blown, 2, 1, { type: 'ending', reward: 1 }).draughts).toEqual([])
  })

  it('names tokens by itself and stops at eight', () => {
    let painted = emptyGrid(10, 1)
    for (let column = 0; column < 10; column++)
      painted = paintCell(painted, column, 0, { type: 'token', reward: 0 })
    expect(new Set(painted.tokens.map(({ name }) => name)).size).toBe(8)
  })

  it('keeps the name of an ending whose reward changes', () => {
    expect(paintCell(grid, 2, 1, { type: 'ending', reward: 9 }).endings).toEqual([
      { at: 'C2', reward: 9, name: 'door' },
    ])
  })

  it('gives back the same grid when nothing changes', () => {
    expect(paintCell(grid, 2, 0, { type: 'wall' })).toBe(grid)
    expect(paintCell(grid, 1, 0, { type: 'erase' })).toBe(grid)
    expect(paintCell(grid, 0, 0, { type: 'start', weight: 2 })).toBe(grid)
    expect(paintCell(grid, 2, 1, { type: 'ending', reward: 5 })).toBe(grid)
    expect(paintCell(grid, 0, 1, { type: 'ground', symbol: ':' })).toBe(grid)
    expect(paintCell(grid, 0, 1, { type: 'jump', to: 'A2' })).toBe(grid)
  })
})

it('paints lines without gaps, rectangles, and patches that hang together', () => {
  const plain = emptyGrid(6, 3)
  const line = lineCells({ column: 0, row: 0 }, { column: 5, row: 2 })
  const walled = paintCells(plain, line, { type: 'wall' })
  expect(walled.floor).toEqual(['##....', '..##..', '....##'])
  const box = regionCells(regionOf({ column: 4, row: 2 }, { column: 3, row: 1 }))
  expect(paintCells(plain, box, { type: 'wall' }).floor).toEqual(['......', '...##.', '...##.'])
  const patch = patchCells(walled, { column: 5, row: 1 })
  expect(paintCells(walled, patch, { type: 'ground', symbol: ':' }).floor).toEqual([
    '##::::',
    '..##::',
    '....##',
  ])
})

it('grows and cuts at every edge; what is named moves along', () => {
  expect(resizeGrid(grid, { ...NO_EDGES, right: 2, bottom: 1 }).floor).toEqual(['..#..', ':....', '.....'])
  const shifted = resizeGrid(grid, { ...NO_EDGES, left: 1, top: 1 })
  expect(shifted.floor).toEqual(['....', '...#', '.:..'])
  expect(shifted.endings[0].at).toBe('D3')
  const cut = resizeGrid(grid, { ...NO_EDGES, left: -1 })
  expect(cut).toMatchObject({ floor: ['.#', '..'], starts: [], endings: [{ at: 'B2' }] })
  for (const left of [-400, 400, NaN])
    expect(() => checkGridShape(resizeGrid(grid, { ...NO_EDGES, left }))).not.toThrow()
})

/** A grid with one of everything, for what must keep things together. */
const full = gridDocument(['.:..', '....', '#...'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'D3', reward: 9, name: '' }],
  bonuses: [{ at: 'B1', reward: 2, once: true, name: '' }],
  sendBacks: [{ at: 'B2', reward: -3, to: 'A2', name: '' }],
  jumps: [{ at: 'C1', to: 'B3' }],
  tokens: [{ at: 'C3', name: 'key', reward: 1 }],
  gates: [{ at: 'D2', token: 'key' }],
  draughts: [{ at: 'C2', toward: 'northeast', strength: 2, chance: 0.5 }],
  moves: 8,
}).grid

describe('mirrors and turns', () => {
  it('undo themselves', () => {
    for (const mirror of ['upright', 'lying'] as const)
      expect(mirrorGrid(mirrorGrid(full, mirror), mirror)).toEqual(full)
    expect(turnGrid(turnGrid(turnGrid(turnGrid(full))))).toEqual(full)
    expect(turnGrid(full).draughts).toEqual([{ at: 'B3', toward: 'southeast', strength: 2, chance: 0.5 }])
    expect(mirrorGrid(full, 'lying').draughts[0].toward).toBe('southeast')
    expect(mirrorGrid(full, 'upright').draughts[0].toward).toBe('northwest')
  })

  it('leave the model as it is, but for the names', () => {
    const shape = (of: Grid) => {
      const { model } = compileGrid(of, 100)
      const outcomes = Array.from(
        model.outcomeProbability,
        (p, o) => `${p.toFixed(9)} ${model.outcomeReward[o].toFixed(9)}`,
      )
      return [model.states, model.rows, ...outcomes.sort()]
    }
    expect(shape(turnGrid(full))).toEqual(shape(full))
    expect(shape(mirrorGrid(full, 'upright'))).toEqual(shape(full))
  })
})

describe('copy and paste', () => {
  it('carries floor and things along', () => {
    const patch = copyRegion(full, { left: 1, top: 0, right: 3, bottom: 2 })
    expect(patch.floor).toEqual([':..', '...', '...'])
    expect(patch.things).toMatchObject({ starts: [], gates: [{ at: 'C2' }], jumps: [{ at: 'B1', to: 'A3' }] })
    const pasted = pastePatch(emptyGrid(5, 5), patch, { column: 2, row: 2 })
    expect(pasted).toMatchObject({
      bonuses: [{ at: 'C3' }],
      tokens: [{ at: 'D5', name: 'key' }],
      gates: [{ at: 'E4' }],
      jumps: [{ at: 'D3', to: 'C5' }],
      draughts: [{ at: 'D4', toward: 'northeast' }],
    })
    expect(pasted.floor[2]).toBe('..:..')
  })

  it('takes what is in the way, cuts what does not fit, and never doubles a token', () => {
    const patch = copyRegion(full, { left: 2, top: 1, right: 3, bottom: 2 })
    const pasted = pastePatch(full, patch, { column: 0, row: 0 })
    expect(pasted.starts).toEqual([])
    expect(pasted.tokens).toEqual(full.tokens)
    expect(pastePatch(full, patch, { column: 3, row: 2 }).floor).toEqual(full.floor)
    expect(() => checkGridShape(pasted)).not.toThrow()
  })
})

it('any work with the tools leaves a grid that can be kept', () => {
  const spot = fc.record({ column: fc.nat(5), row: fc.nat(4) })
  const cell = fc.constantFrom('A1', 'B2', 'C3', 'F5')
  const brush: fc.Arbitrary<Brush> = fc.oneof(
    fc.constantFrom<Brush>(
      { type: 'wall' },
      { type: 'erase' },
      { type: 'ground', symbol: ':' },
      { type: 'start', weight: 1 },
      { type: 'ending', reward: 4 },
      { type: 'bonus', reward: 1, once: true },
      { type: 'token', reward: 0 },
      { type: 'gate', token: 'key' },
    ),
    cell.map((to): Brush => ({ type: 'jump', to })),
    cell.map((to): Brush => ({ type: 'sendBack', reward: -1, to })),
    fc
      .constantFrom(...DIRECTION_NAMES)
      .map((toward): Brush => ({ type: 'draught', toward, strength: 3, chance: 0.5 })),
  )
  const work = fc.array(
    fc.oneof(
      fc.tuple(spot, brush).map(
        ([{ column, row }, with_]) =>
          (g: Grid) =>
            row < g.floor.length && column < g.floor[0].length ? paintCell(g, column, row, with_) : g,
      ),
      fc.tuple(spot, spot, spot).map(([from, to, at]) => (g: Grid) => {
        const inside = ({ column, row }: typeof at) => row < g.floor.length && column < g.floor[0].length
        return inside(from) && inside(to) && inside(at)
          ? pastePatch(g, copyRegion(g, regionOf(from, to)), at)
          : g
      }),
      fc.constantFrom(
        turnGrid,
        (g: Grid) => mirrorGrid(g, 'upright'),
        (g: Grid) => mirrorGrid(g, 'lying'),
      ),
      fc.constant((g: Grid) => resizeGrid(g, { left: 1, top: -1, right: -1, bottom: 1 })),
    ),
    { maxLength: 25 },
  )
  fc.assert(
    fc.property(work, (steps) => {
      const worked = steps.reduce((g, step) => step(g), emptyGrid(6, 5))
      expect(() => checkGridShape(worked)).not.toThrow()
      for (const list of ['starts', 'endings', 'jumps', 'tokens'] as const)
        expect(new Set(worked[list].map(({ at }) => at)).size).toBe(worked[list].length)
    }),
    { numRuns: 300 },
  )
})
