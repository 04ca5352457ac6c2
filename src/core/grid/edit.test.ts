import { describe, expect, it } from 'vitest'
import { gridDocument } from '../testing/models'
import { checkGrid } from './document'
import { emptyGrid, paintCell, paintLine, resizeGrid } from './edit'

const grid = gridDocument(['..#', ':..'], {
  starts: [{ at: 'A1', weight: 2 }],
  endings: [{ at: 'C2', reward: 5, name: 'door' }],
}).grid

describe('paintCell', () => {
  it('puts each brush down, and takes away what was in its place', () => {
    expect(paintCell(grid, 0, 0, { type: 'wall' })).toMatchObject({ floor: ['#.#', ':..'], starts: [] })
    expect(paintCell(grid, 2, 1, { type: 'start' })).toMatchObject({
      endings: [],
      starts: [grid.starts[0], { at: 'C2' }],
    })
    expect(paintCell(grid, 2, 0, { type: 'ending', reward: -3 })).toMatchObject({ floor: ['...', ':..'] })
    expect(paintCell(grid, 0, 1, { type: 'erase' }).floor).toEqual(['..#', '...'])
    expect(paintCell(grid, 0, 0, { type: 'ground', symbol: ':' })).toMatchObject({
      floor: [':.#', ':..'],
      starts: grid.starts,
    })
  })

  it('keeps the name of an ending whose reward changes', () => {
    expect(paintCell(grid, 2, 1, { type: 'ending', reward: 9 }).endings).toEqual([
      { at: 'C2', reward: 9, name: 'door' },
    ])
  })

  it('gives back the same grid when nothing changes', () => {
    expect(paintCell(grid, 2, 0, { type: 'wall' })).toBe(grid)
    expect(paintCell(grid, 1, 0, { type: 'erase' })).toBe(grid)
    expect(paintCell(grid, 0, 0, { type: 'start' })).toBe(grid)
    expect(paintCell(grid, 2, 1, { type: 'ending', reward: 5 })).toBe(grid)
    expect(paintCell(grid, 0, 1, { type: 'ground', symbol: ':' })).toBe(grid)
  })
})

it('paints lines without gaps', () => {
  const painted = paintLine(emptyGrid(6, 3), { column: 0, row: 0 }, { column: 5, row: 2 }, { type: 'wall' })
  expect(painted.floor).toEqual(['##....', '..##..', '....##'])
})

it('resizes, and what is left is a grid', () => {
  const grown = resizeGrid(grid, 5, 3)
  expect(grown.floor).toEqual(['..#..', ':....', '.....'])
  const cut = resizeGrid(grid, 2, 1)
  expect(cut).toMatchObject({ floor: ['..'], starts: grid.starts, endings: [] })
  for (const [columns, rows] of [
    [0, -4],
    [500, NaN],
  ])
    expect(() => checkGrid(resizeGrid(grid, columns, rows))).not.toThrow()
})
