import Joi from 'joi'
import { DIRECTION_NAMES, type Direction } from './directions'

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
const SIDE_LIMIT = 4096
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

const reward = Joi.number().min(-1e9).max(1e9)
const chance = Joi.number().min(0).max(1)
const at = Joi.string().max(8).required()
const name = Joi.string().allow('').max(60).default('')
const things = (fields: Joi.SchemaMap) =>
  Joi.array()
    .items(Joi.object({ at, ...fields }))
    .default([])

export const gridSchema = Joi.object<Grid>({
  floor: Joi.array()
    .items(Joi.string().min(1).max(SIDE_LIMIT))
    .min(1)
    .max(SIDE_LIMIT)
    .required()
    .messages({
      'array.max': `{{#label}} has {{#value.length}} rows; a side may have ${SIDE_LIMIT}`,
      'string.max': `{{#label}} is longer than a side of ${SIDE_LIMIT} cells`,
    }),
  grounds: Joi.array()
    .items(
      Joi.object({
        symbol: Joi.string()
          .pattern(/^[^#\s]$/)
          .required()
          .messages({ 'string.pattern.base': '{{#label}} must be one character, not a blank and not #' }),
        name: Joi.string().max(40).required(),
        cost: reward.default(0),
        veer: chance.allow(null).default(null),
      }),
    )
    .min(1)
    .max(16)
    .unique('symbol')
    .default(PLAIN_GRID.grounds),
  starts: things({ weight: Joi.number().greater(0).max(1e9).default(1) }),
  endings: things({ reward: reward.required(), name }),
  bonuses: things({ reward: reward.required(), once: Joi.boolean().default(true), name }),
  sendBacks: things({ reward: reward.required(), to: Joi.string().max(8).allow(null).default(null), name }),
  jumps: things({ to: Joi.string().max(8).required() }),
  tokens: things({
    // A comma parts what is held in the names of states.
    name: Joi.string()
      .max(20)
      .pattern(/^[^,]*[^,\s][^,]*$/)
      .required()
      .messages({ 'string.pattern.base': '{{#label}} must be a name, without a comma in it' }),
    reward: reward.default(0),
  })
    .max(HELD_LIMIT)
    .unique('name'),
  gates: things({ token: Joi.string().max(20).required() }),
  draughts: things({
    toward: Joi.string()
      .valid(...DIRECTION_NAMES)
      .required(),
    strength: Joi.number().integer().min(1).max(3).default(1),
    chance: chance.default(1),
  }),
  moves: Joi.number().valid(4, 8).default(4),
  stay: Joi.boolean().default(false),
  diagonalCosts: Joi.boolean().default(true),
  stepReward: reward.default(0),
  veer: chance.default(0),
  stall: chance.default(0),
  reverse: chance.default(0),
})
