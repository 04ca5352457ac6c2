import Joi from 'joi'
import { ProblemError, type Problem } from '../problem'
import { cellName, parseCellName } from './cells'

/** A kind of floor. A step that ends on it pays `cost`. */
export interface Ground {
  readonly symbol: string
  readonly name: string
  readonly cost: number
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

/** The grid part of an environment document. */
export interface Grid {
  /** One text a row, one character a cell: WALL, or the symbol of a ground. */
  readonly floor: readonly string[]
  /** The first one is what an erased cell becomes. */
  readonly grounds: readonly Ground[]
  /** When empty, every open cell is as likely. */
  readonly starts: readonly Start[]
  readonly endings: readonly Ending[]
  /** Added to every step. */
  readonly stepReward: number
  /** The chance that a move goes to its left or its right instead, half each. */
  readonly veer: number
}

export const WALL = '#'
/** Cells a document may have in all; the editor draws up to 64 x 64. */
const CELL_LIMIT = 500_000
const SIDE_LIMIT = 4096
export const EDITOR_SIDE = 64

const reward = Joi.number().min(-1e9).max(1e9)
const at = Joi.string().max(8).required()

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
      }),
    )
    .min(1)
    .max(16)
    .unique('symbol')
    .default([{ symbol: '.', name: 'parquet', cost: 0 }]),
  starts: Joi.array()
    .items(Joi.object({ at, weight: Joi.number().greater(0).max(1e9).default(1) }))
    .default([]),
  endings: Joi.array()
    .items(Joi.object({ at, reward: reward.required(), name: Joi.string().allow('').max(60).default('') }))
    .default([]),
  stepReward: reward.default(0),
  veer: Joi.number().min(0).max(1).default(0),
})

/** What the schema cannot say: equal rows, known symbols, things on open cells, one thing a cell. */
export function checkGrid(grid: Grid): void {
  const problems: Problem[] = []
  const width = grid.floor[0].length
  if (width * grid.floor.length > CELL_LIMIT)
    throw new ProblemError([
      {
        place: 'grid.floor',
        cause: `The grid has ${width} x ${grid.floor.length} = ${width * grid.floor.length} cells.`,
        remedy: `A grid may have ${CELL_LIMIT}; make it smaller.`,
      },
    ])
  const symbols = new Set([WALL, ...grid.grounds.map((ground) => ground.symbol)])
  grid.floor.forEach((row, r) => {
    if (row.length !== width)
      problems.push({
        place: `grid.floor[${r}]`,
        cause: `The row has ${row.length} cells, the first row ${width}.`,
        remedy: 'Make all rows equally long.',
      })
    const stranger = [...row].findIndex((symbol) => !symbols.has(symbol))
    if (stranger >= 0)
      problems.push({
        place: `grid.floor[${r}], cell ${cellName(stranger, r)}`,
        cause: `No ground has the symbol "${[...row][stranger]}".`,
        remedy: `Use one of ${[...symbols].join(' ')}, or add a ground.`,
      })
  })
  const taken = new Map<string, string>()
  const things: [string, readonly { at: string }[]][] = [
    ['starts', grid.starts],
    ['endings', grid.endings],
  ]
  for (const [list, cells] of things)
    cells.forEach(({ at }, i) => {
      const place = `grid.${list}[${i}]`
      const cell = parseCellName(at)
      const symbol = cell && grid.floor[cell.row]?.[cell.column]
      if (symbol === undefined)
        problems.push({
          place,
          cause: `There is no cell "${at}".`,
          remedy: `Name one from A1 to ${lastCell(grid)}.`,
        })
      else if (symbol === WALL)
        problems.push({ place, cause: `Cell ${at} is a wall.`, remedy: 'Move it to an open cell.' })
      const other = taken.get(at)
      if (other)
        problems.push({
          place,
          cause: `Cell ${at} is already used by ${other}.`,
          remedy: 'Keep one of them.',
        })
      else taken.set(at, place)
    })
  if (problems.length) throw new ProblemError(problems.slice(0, 20))
}

function lastCell(grid: Grid): string {
  return cellName(grid.floor[0].length - 1, grid.floor.length - 1)
}
