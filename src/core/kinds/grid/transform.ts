import { cellName, parseCellName } from './cells'
import { DIRECTION_NAMES, directionIndex, type Direction } from './directions'
import { HELD_LIMIT, THING_LISTS, type Grid } from './document'
import { moveThings, paintCell, type Region, type Spot } from './edit'

/** The grid seen in a mirror that stands upright (left and right change places) or lies (top and bottom). */
export function mirrorGrid(grid: Grid, mirror: 'upright' | 'lying'): Grid {
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const upright = mirror === 'upright'
  const floor = upright
    ? grid.floor.map((symbols) => [...symbols].reverse().join(''))
    : grid.floor.slice().reverse()
  const moved = moveThings({ ...grid, floor }, ({ column, row }) =>
    upright ? { column: columns - 1 - column, row } : { column, row: rows - 1 - row },
  )
  // North, the first of eight, stays in an upright mirror and becomes south in a lying one.
  return turnDraughts(moved, (direction) => ((upright ? 8 : 12) - direction) % 8)
}

/** The grid turned by a quarter, clockwise. */
export function turnGrid(grid: Grid): Grid {
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const floor = Array.from({ length: columns }, (_, row) =>
    Array.from({ length: rows }, (_, column) => grid.floor[rows - 1 - column][row]).join(''),
  )
  const moved = moveThings({ ...grid, floor }, ({ column, row }) => ({ column: rows - 1 - row, row: column }))
  return turnDraughts(moved, (direction) => (direction + 2) % 8)
}

function turnDraughts(grid: Grid, turn: (direction: number) => number): Grid {
  return {
    ...grid,
    draughts: grid.draughts.map((draught) => ({
      ...draught,
      toward: DIRECTION_NAMES[turn(directionIndex(draught.toward))] as Direction,
    })),
  }
}

/** A copied part of a grid: floor and things, which are named as if the part were a grid of its own. */
export interface Patch {
  readonly floor: readonly string[]
  readonly things: Pick<Grid, (typeof THING_LISTS)[number]>
}

export function copyRegion(grid: Grid, region: Region): Patch {
  const { left, top, right, bottom } = region
  const floor = grid.floor.slice(top, bottom + 1).map((symbols) => symbols.slice(left, right + 1))
  const inside = moveThings(grid, ({ column, row }) =>
    column < left || column > right || row < top || row > bottom
      ? undefined
      : { column: column - left, row: row - top },
  )
  // A gate whose token was not copied still needs it where it is pasted.
  const gates = grid.gates.flatMap((gate) => {
    const { column, row } = parseCellName(gate.at)!
    return column < left || column > right || row < top || row > bottom
      ? []
      : [{ ...gate, at: cellName(column - left, row - top) }]
  })
  const things = Object.fromEntries(THING_LISTS.map((list) => [list, inside[list]])) as Patch['things']
  return { floor, things: { ...things, gates } }
}

/**
 * Puts a copied part on the grid, its corner on a cell; what does not fit is left out. Unknown grounds become the
 * first one; a token whose name is taken, and a gate whose token is not there, are left out.
 */
export function pastePatch(grid: Grid, patch: Patch, at: Spot): Grid {
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const known = new Set(['#', ...grid.grounds.map(({ symbol }) => symbol)])
  let pasted = grid
  patch.floor.forEach((symbols, r) => {
    for (let c = 0; c < symbols.length; c++) {
      const column = at.column + c
      const row = at.row + r
      if (column >= columns || row >= rows) continue
      pasted = paintCell(pasted, column, row, { type: 'erase' })
      const symbol = symbols[c]
      if (symbol === '#') pasted = paintCell(pasted, column, row, { type: 'wall' })
      else if (known.has(symbol)) pasted = paintCell(pasted, column, row, { type: 'ground', symbol })
    }
  })
  const moved = moveThings({ ...pasted, ...patch.things }, ({ column, row }) =>
    column + at.column < columns && row + at.row < rows
      ? { column: column + at.column, row: row + at.row }
      : undefined,
  )
  const tokens = [
    ...pasted.tokens,
    ...moved.tokens.filter(({ name }) => pasted.tokens.every((token) => token.name !== name)),
  ].slice(0, HELD_LIMIT)
  let once = pasted.bonuses.filter((bonus) => bonus.once).length
  return {
    ...pasted,
    starts: [...pasted.starts, ...moved.starts],
    endings: [...pasted.endings, ...moved.endings],
    bonuses: [
      ...pasted.bonuses,
      ...moved.bonuses.map((bonus) => ({ ...bonus, once: bonus.once && ++once <= HELD_LIMIT })),
    ],
    sendBacks: [...pasted.sendBacks, ...moved.sendBacks],
    jumps: [...pasted.jumps, ...moved.jumps],
    tokens,
    gates: [...pasted.gates, ...moved.gates.filter(({ token }) => tokens.some(({ name }) => name === token))],
    draughts: [...pasted.draughts, ...moved.draughts],
  }
}
