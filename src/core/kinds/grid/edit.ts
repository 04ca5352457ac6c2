import { cellName, parseCellName } from './cells'
import type { Direction } from './directions'
import { EDITOR_SIDE, HELD_LIMIT, THING_LISTS, WALL, type Grid, type ThingList } from './document'

/** What a stroke puts on a cell. */
export type Brush =
  | { readonly type: 'wall' }
  /** Clears the cell down to the first ground. */
  | { readonly type: 'erase' }
  | { readonly type: 'ground'; readonly symbol: string }
  | { readonly type: 'start'; readonly weight: number }
  | { readonly type: 'ending'; readonly reward: number }
  | { readonly type: 'bonus'; readonly reward: number; readonly once: boolean }
  | { readonly type: 'sendBack'; readonly reward: number; readonly to: string | null }
  | {
      readonly type: 'draught'
      readonly toward: Direction
      readonly strength: number
      readonly chance: number
    }
  | { readonly type: 'jump'; readonly to: string }
  | { readonly type: 'token'; readonly reward: number }
  | { readonly type: 'gate'; readonly token: string }

export interface Spot {
  readonly column: number
  readonly row: number
}

/** The lists that exclude one another on a cell: all but draughts, which lie under some things. */
const EXCLUSIVE = THING_LISTS.filter((list) => list !== 'draughts')
/** Where nobody stays, no draught carries anyone on. */
const STILL: readonly ThingList[] = ['endings', 'sendBacks', 'jumps']

/**
 * The grid after one touch of a brush. A wall takes away what stood on the cell; a thing opens a wall and takes the
 * place of what stood there. Gives back the very same grid when nothing changes.
 */
export function paintCell(grid: Grid, column: number, row: number, brush: Brush): Grid {
  const at = cellName(column, row)
  if (brush.type === 'wall') return withSymbol(without(grid, at, THING_LISTS), column, row, WALL)
  if (brush.type === 'erase')
    return withSymbol(without(grid, at, THING_LISTS), column, row, grid.grounds[0].symbol)
  if (brush.type === 'ground') return withSymbol(grid, column, row, brush.symbol)
  const put = thingOf(grid, at, brush)
  if (
    !put ||
    same(
      grid[put.list].find((thing) => thing.at === at),
      put.thing,
    )
  )
    return grid
  const cleared =
    put.list === 'draughts'
      ? without(grid, at, ['draughts', ...STILL])
      : without(grid, at, STILL.includes(put.list) ? THING_LISTS : EXCLUSIVE)
  const opened =
    grid.floor[row][column] === WALL ? withSymbol(cleared, column, row, grid.grounds[0].symbol) : cleared
  return { ...opened, [put.list]: [...opened[put.list], put.thing] }
}

/** The thing a brush puts on a cell; undefined where it can put none. A name that stands there already is kept. */
function thingOf(
  grid: Grid,
  at: string,
  brush: Exclude<Brush, { type: 'wall' | 'erase' | 'ground' }>,
): { [L in ThingList]: { list: L; thing: Grid[L][number] } }[ThingList] | undefined {
  const targets = (to: string) => to !== at && isOnGrid(grid, to)
  const named = (list: 'endings' | 'bonuses' | 'sendBacks') =>
    grid[list].find((thing) => thing.at === at)?.name ?? ''
  switch (brush.type) {
    case 'start':
      return { list: 'starts', thing: { at, weight: brush.weight } }
    case 'ending':
      return { list: 'endings', thing: { at, reward: brush.reward, name: named('endings') } }
    case 'bonus': {
      const { reward, once } = brush
      const others = grid.bonuses.filter((bonus) => bonus.once && bonus.at !== at).length
      return {
        list: 'bonuses',
        thing: { at, reward, once: once && others < HELD_LIMIT, name: named('bonuses') },
      }
    }
    case 'sendBack':
      return brush.to === null || targets(brush.to)
        ? {
            list: 'sendBacks',
            thing: { at, reward: brush.reward, to: brush.to, name: named('sendBacks') },
          }
        : undefined
    case 'draught':
      return {
        list: 'draughts',
        thing: { at, toward: brush.toward, strength: brush.strength, chance: brush.chance },
      }
    case 'jump':
      return targets(brush.to) ? { list: 'jumps', thing: { at, to: brush.to } } : undefined
    case 'token': {
      const known = grid.tokens.find((token) => token.at === at)
      if (!known && grid.tokens.length >= HELD_LIMIT) return undefined
      return { list: 'tokens', thing: { at, name: known?.name ?? freeName(grid), reward: brush.reward } }
    }
    case 'gate':
      return grid.tokens.some(({ name }) => name === brush.token)
        ? { list: 'gates', thing: { at, token: brush.token } }
        : undefined
  }
}

function isOnGrid(grid: Grid, name: string): boolean {
  const cell = parseCellName(name)
  return cell !== undefined && grid.floor[cell.row]?.[cell.column] !== undefined
}

const TOKEN_NAMES = ['key', 'lens', 'seal', 'badge', 'lamp', 'map', 'ticket', 'bell']

function freeName(grid: Grid): string {
  return TOKEN_NAMES.find((name) => grid.tokens.every((token) => token.name !== name)) ?? TOKEN_NAMES[0]
}

function same(one: object | undefined, other: object): boolean {
  return one !== undefined && JSON.stringify(one) === JSON.stringify(other)
}

function without(grid: Grid, at: string, lists: readonly ThingList[]): Grid {
  const hit = lists.filter((list) => grid[list].some((thing) => thing.at === at))
  if (!hit.length) return grid
  return {
    ...grid,
    ...Object.fromEntries(
      hit.map((list) => [list, (grid[list] as readonly { at: string }[]).filter((thing) => thing.at !== at)]),
    ),
  }
}

function withSymbol(grid: Grid, column: number, row: number, symbol: string): Grid {
  const symbols = grid.floor[row]
  if (symbols[column] === symbol) return grid
  const floor = grid.floor.slice()
  floor[row] = symbols.slice(0, column) + symbol + symbols.slice(column + 1)
  return { ...grid, floor }
}

/** Paints some cells with one brush. */
export function paintCells(grid: Grid, cells: Iterable<Spot>, brush: Brush): Grid {
  let painted = grid
  for (const { column, row } of cells) painted = paintCell(painted, column, row, brush)
  return painted
}

/** The cells on the straight line between two cells, so that a fast stroke leaves no gaps. */
export function* lineCells(from: Spot, to: Spot): Generator<Spot> {
  const steps = Math.max(Math.abs(to.column - from.column), Math.abs(to.row - from.row), 1)
  for (let i = 0; i <= steps; i++)
    yield {
      column: Math.round(from.column + ((to.column - from.column) * i) / steps),
      row: Math.round(from.row + ((to.row - from.row) * i) / steps),
    }
}

/** A rectangle of cells, both corners included. */
export interface Region {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

export function regionOf(from: Spot, to: Spot): Region {
  return {
    left: Math.min(from.column, to.column),
    right: Math.max(from.column, to.column),
    top: Math.min(from.row, to.row),
    bottom: Math.max(from.row, to.row),
  }
}

export function* regionCells({ left, top, right, bottom }: Region): Generator<Spot> {
  for (let row = top; row <= bottom; row++)
    for (let column = left; column <= right; column++) yield { column, row }
}

/** The cells of the same symbol that hang together with a cell by their sides. */
export function* patchCells(grid: Grid, from: Spot): Generator<Spot> {
  const columns = grid.floor[0].length
  const symbol = grid.floor[from.row][from.column]
  const seen = new Set<number>([from.row * columns + from.column])
  for (const cell of seen) {
    const column = cell % columns
    const row = Math.floor(cell / columns)
    yield { column, row }
    for (const [c, r] of [
      [column, row - 1],
      [column + 1, row],
      [column, row + 1],
      [column - 1, row],
    ])
      if (c >= 0 && c < columns && grid.floor[r]?.[c] === symbol) seen.add(r * columns + c)
  }
}

/** How many columns and rows to add at each edge; below 0 they are cut off. */
export interface Edges {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/** Grows or cuts the grid at its edges; what falls off is gone, and so is what led there. Sides stay within 1 … 64. */
export function resizeGrid(grid: Grid, edges: Edges): Grid {
  const columns = grid.floor[0].length
  const width = clampSide(columns + edges.left + edges.right)
  const height = clampSide(grid.floor.length + edges.top + edges.bottom)
  const fill = grid.grounds[0].symbol
  const floor = Array.from({ length: height }, (_, row) => {
    const from = grid.floor[row - edges.top]
    return Array.from({ length: width }, (_, column) => from?.[column - edges.left] ?? fill).join('')
  })
  return moveThings({ ...grid, floor }, ({ column, row }) => {
    const to = { column: column + edges.left, row: row + edges.top }
    return to.column >= 0 && to.column < width && to.row >= 0 && to.row < height ? to : undefined
  })
}

/**
 * The grid with every thing moved, and what names a cell with it. Things moved off the grid are gone; a jump whose
 * target is gone is gone too, a send-back then leads to the starts.
 */
export function moveThings(grid: Grid, where: (spot: Spot) => Spot | undefined): Grid {
  const named = (at: string) => {
    const to = where(parseCellName(at)!)
    return to && cellName(to.column, to.row)
  }
  const move = <T extends { readonly at: string }>(things: readonly T[]): T[] =>
    things.flatMap((thing) => {
      const at = named(thing.at)
      return at === undefined ? [] : [{ ...thing, at }]
    })
  const tokens = move(grid.tokens)
  return {
    ...grid,
    starts: move(grid.starts),
    endings: move(grid.endings),
    bonuses: move(grid.bonuses),
    sendBacks: move(grid.sendBacks).map((thing) => ({
      ...thing,
      to: thing.to === null ? null : (named(thing.to) ?? null),
    })),
    jumps: move(grid.jumps).flatMap((jump) => {
      const to = named(jump.to)
      return to === undefined ? [] : [{ ...jump, to }]
    }),
    tokens,
    gates: move(grid.gates).filter(({ token }) => tokens.some(({ name }) => name === token)),
    draughts: move(grid.draughts),
  }
}

function clampSide(side: number): number {
  return Math.max(1, Math.min(EDITOR_SIDE, Math.round(side) || 1))
}
