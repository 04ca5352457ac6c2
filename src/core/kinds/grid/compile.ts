import { finishModel, ROW_BUDGET } from '../../model/builder'
import type { Model } from '../../model/model'
import { RowWriter } from '../../model/row-writer'
import { refuse } from '../../problem'
import { columnName } from './cells'
import { checkGrid } from './check-grid'
import { DIRECTION_NAMES, STAY } from './directions'
import type { Grid } from './document'
import { GridDynamics } from './dynamics'

/** The states of a grid in which the same is held: one for each cell. */
export interface GridSlice {
  /** What is held and spent, in words; empty when it is nothing. */
  readonly title: string
  /** Bits as in {@link GridDynamics}. */
  readonly held: number
  /** [columns x rows] the state of a cell, row by row, or -1 for a wall or a cell no episode can reach */
  readonly stateOfCell: Int32Array
}

/** Where the states of a compiled grid lie on its floor. */
export interface GridLayout {
  readonly columns: number
  readonly rows: number
  /** A single one where the grid has no tokens and no once-only bonuses. */
  readonly slices: readonly GridSlice[]
  /** [states] */
  readonly cellOfState: Int32Array
  /** [states] */
  readonly sliceOfState: Int32Array
}

/**
 * Compiles a grid. The states are what an episode can reach of cells and things held, row by row, named like
 * `A1`, `A1 with key` or `A1 with key, after C4` (a bonus spent).
 *
 * A move goes one cell; with the chances veer, stall and reverse it goes to its left or right (half each), is not
 * carried out, or goes the opposite way. A move into a wall, a shut gate or off the floor stays put. A step pays
 * the step reward, less the cost of the ground it ends on, plus the rewards of what it enters. See docs/formats.md.
 *
 * @throws ProblemError for a grid that is not well formed or has too many states
 */
export function compileGrid(grid: Grid, cap: number): { model: Model; layout: GridLayout } {
  checkGrid(grid)
  const dynamics = new GridDynamics(grid)
  if (dynamics.startDistribution.cells.length === 0)
    refuse('grid.floor', 'No cell is open to start in.', 'Erase a wall, or leave a cell with nothing on it.')
  const slices = reachable(grid, dynamics)
  const { labels, cellOfState, sliceOfState } = number(dynamics, slices)
  const ways = actionsOf(grid)
  const writer = new RowWriter()
  const results = new MoveResults(dynamics, slices)
  const veers = veerChances(grid)
  const turn = grid.moves === 8 ? 1 : 2
  for (let state = 0; state < labels.length; state++) {
    writer.beginState()
    const cell = cellOfState[state]
    if (dynamics.isEnding(cell)) continue
    const { held } = slices[sliceOfState[state]]
    results.clear()
    const symbol = grid.floor[Math.floor(cell / dynamics.columns)][cell % dynamics.columns]
    const veer = veers.get(symbol)!
    for (let action = 0; action < ways.length; action++) {
      const direction = ways[action]
      writer.beginRow(action)
      if (direction !== null) {
        results.write(writer, cell, held, direction, 1 - veer - grid.stall - grid.reverse)
        results.write(writer, cell, held, (direction + 8 - turn) % 8, veer / 2)
        results.write(writer, cell, held, (direction + turn) % 8, veer / 2)
        results.write(writer, cell, held, (direction + 4) % 8, grid.reverse)
      }
      results.write(writer, cell, held, REST, direction === null ? 1 : grid.stall)
    }
  }
  const { cells, chances } = dynamics.startDistribution
  const model = finishModel(writer.finish(), {
    labels,
    actions: ways.map((direction) => (direction === null ? STAY : DIRECTION_NAMES[direction])),
    cap,
    ...(grid.sees === 'around'
      ? { observation: observed(dynamics, ways, cellOfState, (state) => slices[sliceOfState[state]].held) }
      : {}),
    starts: Array.from(cells, (cell, i) => ({ state: slices[0].stateOfCell[cell], weight: chances[i] })),
    // Where nothing is held, cells have names of their own.
    distinct: slices.length === 1,
  })
  const { columns } = dynamics
  return { model, layout: { columns, rows: grid.floor.length, slices, cellOfState, sliceOfState } }
}

/** The place of resting among the results of moves, after the eight directions. */
const REST = 8

/** What the moves from a state come to: actions share them, as one veers where another goes straight. */
class MoveResults {
  private readonly from = new Int32Array(REST + 1).fill(-1)
  private readonly to = new Int32Array(REST + 1)
  private readonly state: number[] = []
  private readonly probability: number[] = []
  private readonly reward: number[] = []
  private used = 0
  private readonly stateOfCell: ReadonlyMap<number, Int32Array>
  /** Where nothing is ever held. */
  private readonly only: Int32Array | null

  constructor(
    private readonly dynamics: GridDynamics,
    slices: readonly GridSlice[],
  ) {
    this.stateOfCell = new Map(slices.map(({ held, stateOfCell }) => [held, stateOfCell]))
    this.only = slices.length === 1 ? slices[0].stateOfCell : null
  }

  /** Another state comes. */
  clear(): void {
    this.from.fill(-1)
    this.used = 0
  }

  /** Writes what a move comes to, with its chance, to the row at hand. */
  write(writer: RowWriter, cell: number, held: number, move: number, chance: number): void {
    if (chance <= 0) return
    if (this.from[move] < 0) this.make(cell, held, move)
    for (let i = this.from[move]; i < this.to[move]; i++)
      writer.outcome(this.state[i], chance * this.probability[i], this.reward[i])
  }

  private make(cell: number, held: number, move: number): void {
    const { dynamics, only } = this
    if (move === REST) dynamics.rest(cell, held)
    else dynamics.move(cell, held, move)
    this.from[move] = this.used
    for (let i = 0; i < dynamics.count; i++, this.used++) {
      const stateOfCell = only ?? this.stateOfCell.get(dynamics.held[i])!
      this.state[this.used] = stateOfCell[dynamics.cell[i]]
      this.probability[this.used] = dynamics.probability[i]
      this.reward[this.used] = dynamics.reward[i]
    }
    this.to[move] = this.used
  }
}

/** [states] numbers for what the agent sees, where that is what lies around it and what it holds. */
function observed(
  dynamics: GridDynamics,
  ways: readonly (number | null)[],
  cellOfState: Int32Array,
  heldIn: (state: number) => number,
): Int32Array {
  const numbers = new Map<string, number>()
  return cellOfState.map((cell, state) => {
    const held = heldIn(state)
    const looks = dynamics.isEnding(cell) ? 'over' : `${held} ${dynamics.surroundings(cell, held, ways)}`
    const number = numbers.get(looks) ?? numbers.size
    numbers.set(looks, number)
    return number
  })
}

/** The veer chance of each ground, by its symbol. */
export function veerChances({ grounds, veer: otherwise }: Grid): ReadonlyMap<string, number> {
  return new Map(grounds.map(({ symbol, veer }) => [symbol, veer ?? otherwise]))
}

/** The direction of each action, null for staying put. */
export function actionsOf(grid: Grid): (number | null)[] {
  const moves = grid.moves === 8 ? [0, 1, 2, 3, 4, 5, 6, 7] : [0, 2, 4, 6]
  return grid.stay ? [...moves, null] : moves
}

/** Slices with the cells that can be reached marked 0, the others -1; the first holds nothing. */
function reachable(grid: Grid, dynamics: GridDynamics): GridSlice[] {
  const slices = new Map<number, GridSlice>()
  const queue: number[] = []
  const ways = actionsOf(grid)
  const actions = ways.length
  let slice: GridSlice | undefined
  const visit = (cell: number, held: number) => {
    if (slice?.held !== held) slice = slices.get(held)
    if (!slice) {
      slice = { title: heldText(grid, held), held, stateOfCell: new Int32Array(dynamics.cells).fill(-1) }
      slices.set(held, slice)
    }
    if (slice.stateOfCell[cell] === 0) return
    slice.stateOfCell[cell] = 0
    if ((queue.length / 2 + 1) * actions > ROW_BUDGET)
      refuse(
        'grid',
        `With ${grid.tokens.length} tokens and ${grid.bonuses.filter(({ once }) => once).length} bonuses that pay once it has more than ${Math.floor(ROW_BUDGET / actions)} states.`,
        'Each of them doubles the states: have fewer, let bonuses pay every time, or make the grid smaller.',
      )
    queue.push(cell, held)
  }
  // Sideways and backwards the moves turn into one another: all together go the same ways whatever the chances are.
  const taken = grid.stall < 1 ? ways.filter((direction) => direction !== null) : []
  const rests = grid.stay || grid.stall > 0
  const follow = () => {
    for (let k = 0; k < dynamics.count; k++) visit(dynamics.cell[k], dynamics.held[k])
  }
  // Where nothing can be held there is nothing left to find once every open cell was.
  const most = grid.tokens.length + grid.bonuses.length === 0 ? 2 * dynamics.openCells : Infinity
  for (const cell of dynamics.startDistribution.cells) visit(cell, 0)
  for (let i = 0; i < queue.length && queue.length < most; i += 2) {
    const cell = queue[i]
    const held = queue[i + 1]
    if (dynamics.isEnding(cell)) continue
    for (const direction of taken) {
      dynamics.move(cell, held, direction)
      follow()
    }
    if (rests) {
      dynamics.rest(cell, held)
      follow()
    }
  }
  // The empty hand first, then by how much is held.
  return [...slices.values()].sort((x, y) => bits(x.held) - bits(y.held) || x.held - y.held)
}

/** Gives the marked cells their state numbers, slice by slice, row by row. */
function number(dynamics: GridDynamics, slices: readonly GridSlice[]) {
  const labels: string[] = []
  const places = slices.length * dynamics.cells
  const cellOfState = new Int32Array(places)
  const sliceOfState = new Int32Array(places)
  const columns = Array.from({ length: dynamics.columns }, (_, column) => columnName(column))
  slices.forEach(({ title, stateOfCell }, slice) => {
    for (let cell = 0; cell < stateOfCell.length; cell++) {
      if (stateOfCell[cell] < 0) continue
      const name = columns[cell % dynamics.columns] + (Math.floor(cell / dynamics.columns) + 1)
      const state = labels.push(title ? `${name} ${title}` : name) - 1
      stateOfCell[cell] = state
      cellOfState[state] = cell
      sliceOfState[state] = slice
    }
  })
  return {
    labels,
    cellOfState: cellOfState.slice(0, labels.length),
    sliceOfState: sliceOfState.slice(0, labels.length),
  }
}

/** `with key, lamp`, `after C4`, `with key, after C4`; empty for nothing. */
function heldText(grid: Grid, held: number): string {
  const tokens = grid.tokens.filter((_, i) => held & (1 << i)).map(({ name }) => name)
  const once = grid.bonuses.filter((bonus) => bonus.once)
  const spent = once.filter((_, i) => held & (1 << (grid.tokens.length + i))).map(({ at }) => at)
  return [tokens.length ? `with ${tokens.join(', ')}` : '', spent.length ? `after ${spent.join(', ')}` : '']
    .filter(Boolean)
    .join(', ')
}

function bits(held: number): number {
  let count = 0
  for (; held; held &= held - 1) count++
  return count
}
