import { cellName, parseCellName } from './cells'
import { EDITOR_SIDE, WALL, type Grid } from './document'

/** What a stroke puts on a cell. */
export type Brush =
  | { readonly type: 'wall' }
  /** Clears the cell down to the first ground. */
  | { readonly type: 'erase' }
  | { readonly type: 'ground'; readonly symbol: string }
  | { readonly type: 'start' }
  | { readonly type: 'ending'; readonly reward: number }

/** A grid with nothing on it; sides from 1 to 64. */
export function emptyGrid(columns: number, rows: number): Grid {
  return {
    floor: Array.from({ length: rows }, () => '.'.repeat(columns)),
    grounds: [
      { symbol: '.', name: 'parquet', cost: 0 },
      { symbol: ':', name: 'carpet', cost: 1 },
    ],
    starts: [],
    endings: [],
    stepReward: -1,
    veer: 0,
  }
}

/**
 * The grid after one touch of a brush. A wall takes away what stood on the cell; a start or an ending opens a wall
 * and takes the other's place. Gives back the very same grid when nothing changes.
 */
export function paintCell(grid: Grid, column: number, row: number, brush: Brush): Grid {
  const at = cellName(column, row)
  const symbol = grid.floor[row][column]
  const without = <T extends { at: string }>(things: readonly T[]): readonly T[] =>
    things.some((thing) => thing.at === at) ? things.filter((thing) => thing.at !== at) : things
  const bare: Grid = { ...grid, starts: without(grid.starts), endings: without(grid.endings) }
  const floorWith = (put: string) =>
    symbol === put
      ? grid.floor
      : grid.floor.map((symbols, r) =>
          r === row ? symbols.slice(0, column) + put + symbols.slice(column + 1) : symbols,
        )
  const open = symbol === WALL ? floorWith(grid.grounds[0].symbol) : grid.floor
  let painted: Grid
  switch (brush.type) {
    case 'wall':
      painted = { ...bare, floor: floorWith(WALL) }
      break
    case 'erase':
      painted = { ...bare, floor: floorWith(grid.grounds[0].symbol) }
      break
    case 'ground':
      painted = { ...grid, floor: floorWith(brush.symbol) }
      break
    case 'start':
      if (grid.starts.some((start) => start.at === at)) return grid
      painted = { ...bare, floor: open, starts: [...grid.starts, { at, weight: 1 }] }
      break
    case 'ending': {
      const known = grid.endings.find((ending) => ending.at === at)
      if (known?.reward === brush.reward) return grid
      painted = {
        ...bare,
        floor: open,
        endings: [...bare.endings, { at, reward: brush.reward, name: known?.name ?? '' }],
      }
    }
  }
  const same =
    painted.floor === grid.floor && painted.starts === grid.starts && painted.endings === grid.endings
  return same ? grid : painted
}

/** Paints every cell on the straight line between two cells, so that a fast stroke leaves no gaps. */
export function paintLine(
  grid: Grid,
  from: { column: number; row: number },
  to: { column: number; row: number },
  brush: Brush,
): Grid {
  const steps = Math.max(Math.abs(to.column - from.column), Math.abs(to.row - from.row), 1)
  let painted = grid
  for (let i = 0; i <= steps; i++)
    painted = paintCell(
      painted,
      Math.round(from.column + ((to.column - from.column) * i) / steps),
      Math.round(from.row + ((to.row - from.row) * i) / steps),
      brush,
    )
  return painted
}

/** Grows or cuts the grid at its right and lower edge; what falls off is gone. Sides are held to 1 … 64. */
export function resizeGrid(grid: Grid, columns: number, rows: number): Grid {
  const width = clampSide(columns)
  const height = clampSide(rows)
  const fill = grid.grounds[0].symbol
  const inside = ({ at }: { at: string }) => {
    const cell = parseCellName(at)!
    return cell.column < width && cell.row < height
  }
  return {
    ...grid,
    floor: Array.from({ length: height }, (_, row) =>
      (grid.floor[row] ?? '').slice(0, width).padEnd(width, fill),
    ),
    starts: grid.starts.filter(inside),
    endings: grid.endings.filter(inside),
  }
}

function clampSide(side: number): number {
  return Math.max(1, Math.min(EDITOR_SIDE, Math.round(side) || 1))
}
