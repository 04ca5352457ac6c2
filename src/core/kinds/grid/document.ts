import type { Direction } from './directions'

/** A kind of floor. A step that ends on it pays `cost`. */
export interface Ground {
  readonly symbol: string
  readonly name: string
  readonly cost: number
  /** The veer chance of moves that begin on it; the grid's own when null. */
  readonly veer: number | null
}

export interface Start {
  readonly at: string
  readonly weight: number
}

export interface Ending {
  readonly at: string
  /** Paid once, on entering. */
  readonly reward: number
  readonly name: string
}

export interface Bonus {
  readonly at: string
  /** Paid on entering: the first time of an episode, or every time. */
  readonly reward: number
  readonly once: boolean
  readonly name: string
}

/** A hazard that does not end the episode: entering it pays and puts the agent elsewhere. */
export interface SendBack {
  readonly at: string
  readonly reward: number
  /** A cell, or null for a start drawn anew. */
  readonly to: string | null
  readonly name: string
}

/** Who comes to be on this cell, or stays on it, is carried on. */
export interface Draught {
  readonly at: string
  readonly toward: Direction
  /** Cells it carries, 1 to 3. */
  readonly strength: number
  readonly chance: number
}

export interface Jump {
  readonly at: string
  readonly to: string
}

/** Picked up on entering, for the rest of the episode. */
export interface Token {
  readonly at: string
  readonly name: string
  readonly reward: number
}

/** A wall to those who do not hold the token. */
export interface Gate {
  readonly at: string
  readonly token: string
}

/** The grid part of an environment document. */
export interface Grid {
  /** One text a row, one character a cell: WALL, or the symbol of a ground. */
  readonly floor: readonly string[]
  /** The first one is what an erased cell becomes. */
  readonly grounds: readonly Ground[]
  /** When empty, every open cell with nothing on it is as likely. */
  readonly starts: readonly Start[]
  readonly endings: readonly Ending[]
  readonly bonuses: readonly Bonus[]
  readonly sendBacks: readonly SendBack[]
  readonly jumps: readonly Jump[]
  readonly tokens: readonly Token[]
  readonly gates: readonly Gate[]
  /** They may lie under starts, bonuses, tokens and gates. */
  readonly draughts: readonly Draught[]
  readonly moves: 4 | 8
  /** Whether staying put is an action. */
  readonly stay: boolean
  /**
   * What the agent knows of where it is: the cell, or only the ground it stands on and what lies next to it. Cells that
   * look alike then share what is learned.
   */
  readonly sees: 'cell' | 'around'
  /** Whether step reward and ground cost of a diagonal count its length, the square root of 2. */
  readonly diagonalCosts: boolean
  /** Added to every step. */
  readonly stepReward: number
  /** The chance that a move goes to its left or its right instead, half each. */
  readonly veer: number
  /** The chance that a move is not carried out at all. */
  readonly stall: number
  /** The chance that a move goes the opposite way. */
  readonly reverse: number
}

export const WALL = '#'
export const SIDE_LIMIT = 4096
export const EDITOR_SIDE = 64
/** Tokens, and once-only bonuses, of a grid: each doubles the states. */
export const HELD_LIMIT = 8

/** A grid but for its floor, as plain as can be. */
export const PLAIN_GRID: Omit<Grid, 'floor'> = {
  grounds: [{ symbol: '.', name: 'parquet', cost: 0, veer: null }],
  starts: [],
  endings: [],
  bonuses: [],
  sendBacks: [],
  jumps: [],
  tokens: [],
  gates: [],
  draughts: [],
  moves: 4,
  stay: false,
  sees: 'cell',
  diagonalCosts: true,
  stepReward: 0,
  veer: 0,
  stall: 0,
  reverse: 0,
}

/** The lists of things that lie on cells. At most one of each list, and see `checkGrid` for what goes together. */
export const THING_LISTS = [
  'starts',
  'endings',
  'bonuses',
  'sendBacks',
  'jumps',
  'tokens',
  'gates',
  'draughts',
] as const
export type ThingList = (typeof THING_LISTS)[number]
