import { newHead } from '../../environment/head'
import type { DocumentOf } from '../kind'
import { cellName } from './cells'
import type { Grid } from './document'
import { emptyGrid } from './empty-grid'

/** An empty grid to begin with: plain floor, a step costs 1, no start and no ending yet. */
export function newGrid(name: string, columns = 11, rows = 7): DocumentOf<'grid', Grid> {
  return { ...newHead(name, 'New grid'), kind: 'grid', grid: emptyGrid(columns, rows) }
}

/**
 * A small hall to begin with, that can be planned as it stands: a start in the first cell, an ending in the last one, and
 * where there is room a wall between them with a gap at each end.
 */
export function newHall(name: string, columns: number, rows: number): DocumentOf<'grid', Grid> {
  const empty = newGrid(name, columns, rows)
  if (columns * rows < 2) return empty
  const middle = Math.floor(rows / 2)
  const walled = columns >= 3 && rows >= 3
  const floor = empty.grid.floor.map((line, row) =>
    walled && row === middle ? `.${'#'.repeat(columns - 2)}.` : line,
  )
  return {
    ...empty,
    grid: {
      ...empty.grid,
      floor,
      starts: [{ at: cellName(0, 0), weight: 1 }],
      endings: [{ at: cellName(columns - 1, rows - 1), reward: 20, name: 'studio' }],
    },
  }
}
