import { parseCellName } from './cells'
import { directionIndex, DIRECTIONS, isDiagonal } from './directions'
import { WALL, type Grid, type Ground } from './document'

/** What lies on a cell, as far as it matters to who comes there. */
interface Place {
  readonly ending?: number
  readonly reward?: number
  /** The bit that is set by coming here: a token held, or a once-only bonus spent. */
  readonly bit?: number
  /** Cells one is put on, with chances. */
  readonly elsewhere?: { readonly cells: Int32Array; readonly chances: Float64Array }
  /** The bit that is needed to come here. */
  readonly gate?: number
}

interface Carry {
  readonly direction: number
  readonly strength: number
  readonly chance: number
}

/** A thing on the way that paid. */
export interface Entered {
  readonly cell: number
  readonly reward: number
}

const DIAGONAL = Math.SQRT2

/** For each bonus of a grid the bit that says it is spent; undefined for those that pay every time. */
export function onceBonusBits({ tokens, bonuses }: Grid): (number | undefined)[] {
  let bit = 1 << tokens.length
  return bonuses.map(({ once }) => {
    const own = once ? bit : undefined
    if (once) bit <<= 1
    return own
  })
}

/**
 * What one executed move does on a grid, whichever action it came from. The state is a cell and what is *held*: bits
 * for the tokens picked up, then bits for the once-only bonuses spent.
 *
 * The results of the last `move` or `rest` are in `cell`, `held`, `probability` and `reward` up to `count`.
 */
export class GridDynamics {
  readonly columns: number
  readonly cells: number
  count = 0
  readonly cell: number[] = []
  readonly held: number[] = []
  readonly probability: number[] = []
  readonly reward: number[] = []
  /** What was entered on the way and paid for it; kept only while `told` is set. */
  readonly entered: (readonly Entered[])[] = []
  /** Whether `entered` is kept, which takes its time. */
  told = false
  private readonly lengths: number[] = []
  private readonly trail: Entered[] = []
  private readonly open: Uint8Array
  /** [cells] the cost of the ground */
  private readonly cost: Float64Array
  private readonly places = new Map<number, Place>()
  private readonly carries = new Map<number, Carry>()
  /** [cells] 1 where something lies, or a draught blows: most cells need not be looked up. */
  private readonly special: Uint8Array
  private readonly starts: { readonly cells: Int32Array; readonly chances: Float64Array }

  /** @param grid  one that `checkGrid` let pass */
  constructor(readonly grid: Grid) {
    const { floor } = grid
    this.columns = floor[0].length
    this.cells = this.columns * floor.length
    this.open = new Uint8Array(this.cells)
    this.cost = new Float64Array(this.cells)
    const costs = new Map(grid.grounds.map(({ symbol, cost }) => [symbol, cost]))
    floor.forEach((symbols, row) => {
      for (let column = 0; column < this.columns; column++) {
        const cell = row * this.columns + column
        if (symbols[column] === WALL) continue
        this.open[cell] = 1
        this.cost[cell] = costs.get(symbols[column])!
      }
    })
    this.special = new Uint8Array(this.cells)
    const put = (at: string, place: Place) => {
      this.places.set(this.at(at), place)
      this.special[this.at(at)] = 1
    }
    const tokenBit = new Map(grid.tokens.map(({ name }, i) => [name, 1 << i]))
    for (const { at, name, reward } of grid.tokens) put(at, { reward, bit: tokenBit.get(name) })
    const bonusBits = onceBonusBits(grid)
    grid.bonuses.forEach(({ at, reward }, i) => put(at, { reward, bit: bonusBits[i] }))
    for (const { at, reward } of grid.endings) put(at, { reward, ending: 1 })
    for (const { at, token } of grid.gates) put(at, { gate: tokenBit.get(token) })
    for (const { at, to } of grid.jumps) put(at, { elsewhere: sure(this.at(to)) })
    this.starts = this.startCells()
    for (const { at, to, reward } of grid.sendBacks)
      put(at, { reward, elsewhere: to === null ? this.starts : sure(this.at(to)) })
    for (const { at, toward, strength, chance } of grid.draughts)
      if (chance > 0) {
        this.carries.set(this.at(at), { direction: directionIndex(toward), strength, chance })
        this.special[this.at(at)] = 1
      }
  }

  /** Where episodes start: cells and chances that sum to 1. */
  get startDistribution(): { readonly cells: Int32Array; readonly chances: Float64Array } {
    return this.starts
  }

  /** How many cells are no walls. */
  get openCells(): number {
    return this.open.reduce((sum, open) => sum + open, 0)
  }

  isEnding(cell: number): boolean {
    return this.special[cell] === 1 && this.places.get(cell)?.ending === 1
  }

  /**
   * What is seen from a cell: its ground, and in each direction a wall (also an edge or a shut gate), an ending, or the
   * ground that lies there.
   */
  surroundings(cell: number, held: number, ways: readonly (number | null)[]): string {
    const ground = (at: number) => this.grid.floor[Math.floor(at / this.columns)][at % this.columns]
    return ways.reduce<string>((seen, direction) => {
      if (direction === null) return seen
      const to = this.passable(cell, direction, held)
      return seen + (to < 0 ? '#' : this.isEnding(to) ? '!' : ground(to))
    }, ground(cell))
  }

  /** The agent goes one cell in a direction, as far as it can. */
  move(cell: number, held: number, direction: number): void {
    this.count = 0
    const length = isDiagonal(direction) && this.grid.diagonalCosts ? DIAGONAL : 1
    const to = this.passable(cell, direction, held)
    if (to < 0) this.blow(cell, held, 1, 0, length)
    else this.arrive(to, held, 1, 0, length, true)
  }

  /** The agent stays where it is. */
  rest(cell: number, held: number): void {
    this.count = 0
    this.blow(cell, held, 1, 0, 1)
  }

  /** The cell a step in a direction leads to, or -1 where it is barred. Between two walls no diagonal passes. */
  private passable(cell: number, direction: number, held: number): number {
    const to = this.neighbour(cell, direction, held)
    if (to < 0 || !isDiagonal(direction)) return to
    const sides = [direction - 1, (direction + 1) % 8].map((side) => this.neighbour(cell, side, held))
    return sides[0] < 0 && sides[1] < 0 ? -1 : to
  }

  private neighbour(cell: number, direction: number, held: number): number {
    const column = (cell % this.columns) + DIRECTIONS[direction].column
    if (column < 0 || column >= this.columns) return -1
    const to = cell + DIRECTIONS[direction].column + DIRECTIONS[direction].row * this.columns
    if (to < 0 || to >= this.cells || this.open[to] === 0) return -1
    const gate = this.special[to] ? this.places.get(to)?.gate : undefined
    return gate === undefined || held & gate ? to : -1
  }

  /** The agent enters a cell. A draught there carries on who walked in, not who was carried or put there. */
  private arrive(
    cell: number,
    held: number,
    probability: number,
    pay: number,
    length: number,
    walked: boolean,
  ): void {
    if (!this.special[cell]) return this.end(cell, held, probability, pay, length)
    const depth = this.trail.length
    this.follow(cell, held, probability, pay, length, walked)
    if (this.told) this.trail.length = depth
  }

  private follow(
    cell: number,
    held: number,
    probability: number,
    pay: number,
    length: number,
    walked: boolean,
  ): void {
    const place = this.places.get(cell)
    if (place) {
      const { bit, reward = 0, elsewhere, ending } = place
      if (bit === undefined || !(held & bit)) {
        pay += reward
        if (this.told && reward !== 0) this.trail.push({ cell, reward })
      }
      if (bit !== undefined) held |= bit
      if (ending) return this.end(cell, held, probability, pay, length)
      if (elsewhere) {
        for (let i = 0; i < elsewhere.cells.length; i++)
          // Put down there, the agent takes what lies there, and nothing leads further.
          this.arrive(elsewhere.cells[i], held, probability * elsewhere.chances[i], pay, length, false)
        return
      }
    }
    if (walked) this.blow(cell, held, probability, pay, length)
    else this.end(cell, held, probability, pay, length)
  }

  /** The draught of the cell one stands on, if any. */
  private blow(cell: number, held: number, probability: number, pay: number, length: number): void {
    const carry = this.special[cell] ? this.carries.get(cell) : undefined
    if (!carry) return this.end(cell, held, probability, pay, length)
    if (carry.chance < 1) this.end(cell, held, probability * (1 - carry.chance), pay, length)
    this.carry(cell, held, probability * carry.chance, pay, length, carry)
  }

  /** Carried cell by cell, entering each, until something bars or ends the way. */
  private carry(
    cell: number,
    held: number,
    probability: number,
    pay: number,
    length: number,
    { direction, strength }: Carry,
  ): void {
    const depth = this.trail.length
    for (let i = 0; i < strength; i++) {
      const to = this.passable(cell, direction, held)
      if (to < 0) break
      cell = to
      const place = this.places.get(cell)
      if (!place) continue
      if (place.ending || place.elsewhere) {
        this.arrive(cell, held, probability, pay, length, false)
        if (this.told) this.trail.length = depth
        return
      }
      if (place.bit === undefined || !(held & place.bit)) {
        pay += place.reward ?? 0
        if (this.told && place.reward) this.trail.push({ cell, reward: place.reward })
      }
      held |= place.bit ?? 0
    }
    this.end(cell, held, probability, pay, length)
    if (this.told) this.trail.length = depth
  }

  /** A step ends here: the step reward and the cost of the ground come on top. */
  private end(cell: number, held: number, probability: number, pay: number, length: number): void {
    const i = this.count++
    this.cell[i] = cell
    this.held[i] = held
    this.probability[i] = probability
    this.reward[i] = pay + (this.grid.stepReward - this.cost[cell]) * length
    this.lengths[i] = length
    if (this.told) this.entered[i] = [...this.trail]
  }

  /** What the i-th result pays for the step itself, and for the ground it ends on. */
  paid(i: number): { readonly step: number; readonly ground: number } {
    const length = this.lengths[i]
    return { step: this.grid.stepReward * length, ground: -this.cost[this.cell[i]] * length }
  }

  /** The ground of an open cell. */
  groundAt(cell: number): Ground {
    const { floor, grounds } = this.grid
    const symbol = floor[Math.floor(cell / this.columns)][cell % this.columns]
    return grounds.find((each) => each.symbol === symbol)!
  }

  private startCells() {
    const { grid } = this
    if (grid.starts.length === 0) {
      // Send-backs are put in place after the starts, which they need.
      const sendBacks = new Set(grid.sendBacks.map(({ at }) => this.at(at)))
      const cells = new Int32Array(this.cells)
      let count = 0
      for (let cell = 0; cell < this.cells; cell++)
        if (this.open[cell] && !this.special[cell] && !sendBacks.has(cell)) cells[count++] = cell
      return { cells: cells.slice(0, count), chances: new Float64Array(count).fill(1 / count) }
    }
    const weights = new Map(grid.starts.map(({ at, weight }) => [this.at(at), weight]))
    let total = 0
    for (const weight of weights.values()) total += weight
    return {
      cells: Int32Array.from(weights.keys()),
      chances: Float64Array.from(weights.values(), (weight) => weight / total),
    }
  }

  /** The number of a cell. */
  at(name: string): number {
    const { column, row } = parseCellName(name)!
    return row * this.columns + column
  }
}

function sure(cell: number) {
  return { cells: Int32Array.of(cell), chances: Float64Array.of(1) }
}
