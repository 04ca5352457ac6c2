import { ModelBuilder } from '../model/builder'
import type { Model } from '../model/model'
import { refuse } from '../problem'
import { cellName, parseCellName } from './cells'
import { checkGrid, WALL, type Grid } from './document'

/** The moves, clockwise, so that left and right are neighbours in the list. */
export const MOVES = [
  { name: 'north', column: 0, row: -1 },
  { name: 'east', column: 1, row: 0 },
  { name: 'south', column: 0, row: 1 },
  { name: 'west', column: -1, row: 0 },
] as const

/** Where the states of a compiled grid lie on its floor. */
export interface GridLayout {
  readonly columns: number
  readonly rows: number
  /** [columns x rows] the state of a cell, row by row, or -1 for a wall or a cell no episode can reach. */
  readonly stateOfCell: Int32Array
  /** [states] */
  readonly cellOfState: Int32Array
}

/**
 * Compiles a grid. The states are the open cells an episode can reach, row by row, named like A1.
 *
 * A move goes one cell; with chance `veer` it goes to its left or right instead, half each. A move into a wall or
 * off the floor stays put. A step pays the step reward, less the cost of the ground it ends on, plus the reward of
 * an ending it enters.
 *
 * @throws ProblemError for a grid that is not well formed
 */
export function compileGrid(grid: Grid, cap: number): { model: Model; layout: GridLayout } {
  checkGrid(grid)
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const open = (column: number, row: number) =>
    column >= 0 && row >= 0 && column < columns && row < rows && grid.floor[row][column] !== WALL
  const endingAt = new Map(grid.endings.map((ending) => [cellIndex(ending.at, columns), ending.reward]))
  const starts = grid.starts.length
    ? grid.starts.map((start) => ({ cell: cellIndex(start.at, columns), weight: start.weight }))
    : openCells(grid, endingAt).map((cell) => ({ cell, weight: 1 }))
  if (starts.length === 0)
    refuse(
      'grid.floor',
      'No cell is open to start in.',
      'Erase a wall, or leave a cell that is not an ending.',
    )

  const target = (cell: number, move: number) => {
    const column = (cell % columns) + MOVES[move].column
    const row = Math.floor(cell / columns) + MOVES[move].row
    return open(column, row) ? row * columns + column : cell
  }
  const reached = reachableCells(
    starts.map((start) => start.cell),
    columns * rows,
    (cell, move) => (endingAt.has(cell) ? cell : target(cell, move)),
  )

  const builder = new ModelBuilder()
  const stateOfCell = new Int32Array(columns * rows).fill(-1)
  const cells: number[] = []
  for (let cell = 0; cell < reached.length; cell++)
    if (reached[cell]) {
      stateOfCell[cell] = builder.newState(cellName(cell % columns, Math.floor(cell / columns)))
      cells.push(cell)
    }
  const actions = MOVES.map((move) => builder.action(move.name))
  const chances = [
    { turn: 0, probability: 1 - grid.veer },
    { turn: 3, probability: grid.veer / 2 },
    { turn: 1, probability: grid.veer / 2 },
  ].filter(({ probability }) => probability > 0)
  const cost = new Map(grid.grounds.map((ground) => [ground.symbol, ground.cost]))
  // What a step pays that ends on a cell.
  const reward = (cell: number) =>
    grid.stepReward -
    cost.get(grid.floor[Math.floor(cell / columns)][cell % columns])! +
    (endingAt.get(cell) ?? 0)
  for (const cell of cells) {
    if (endingAt.has(cell)) continue
    const ends = MOVES.map((_, move) => target(cell, move))
    const pays = ends.map(reward)
    for (let move = 0; move < MOVES.length; move++) {
      const row = builder.newRow(stateOfCell[cell], actions[move])
      for (const { turn, probability } of chances) {
        const way = (move + turn) % MOVES.length
        builder.outcome(row, stateOfCell[ends[way]], probability, pays[way])
      }
    }
  }
  const model = builder.build({
    cap,
    starts: starts.map((start) => ({ state: stateOfCell[start.cell], weight: start.weight })),
  })
  return { model, layout: { columns, rows, stateOfCell, cellOfState: Int32Array.from(cells) } }
}

function cellIndex(name: string, columns: number): number {
  const { column, row } = parseCellName(name)!
  return row * columns + column
}

function openCells(grid: Grid, endingAt: ReadonlyMap<number, number>): number[] {
  const cells: number[] = []
  grid.floor.forEach((symbols, row) => {
    for (let column = 0; column < symbols.length; column++) {
      const cell = row * symbols.length + column
      if (symbols[column] !== WALL && !endingAt.has(cell)) cells.push(cell)
    }
  })
  return cells
}

function reachableCells(
  from: readonly number[],
  cells: number,
  target: (cell: number, move: number) => number,
): Uint8Array {
  const reached = new Uint8Array(cells)
  const queue = new Int32Array(cells)
  let length = 0
  const visit = (cell: number) => {
    if (reached[cell]) return
    reached[cell] = 1
    queue[length++] = cell
  }
  from.forEach(visit)
  for (let i = 0; i < length; i++)
    for (let move = 0; move < MOVES.length; move++) visit(target(queue[i], move))
  return reached
}
