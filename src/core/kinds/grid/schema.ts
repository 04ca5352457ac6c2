import Joi from 'joi'
import { DIRECTION_NAMES } from './directions'
import { HELD_LIMIT, PLAIN_GRID, SIDE_LIMIT, type Grid } from './document'

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
  sees: Joi.valid('cell', 'around').default('cell'),
  diagonalCosts: Joi.boolean().default(true),
  stepReward: reward.default(0),
  veer: chance.default(0),
  stall: chance.default(0),
  reverse: chance.default(0),
})
