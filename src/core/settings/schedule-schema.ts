import Joi from 'joi'
import { numberSchema } from './number-schema'
import type { NumberRange } from './setting'

const pace = Joi.string().valid('episode', 'step').required()
const over = Joi.number().integer().min(1).max(1e9).required()

/** A schedule between two limits; those that fall by a factor need a floor above 0. */
export function scheduleSchema(range: NumberRange, ofRate: boolean): Joi.Schema {
  const within = numberSchema(range).required()
  const positive = Joi.number().greater(0).max(range.max).required()
  const kinds = [
    Joi.object({ kind: Joi.valid('constant').required(), from: within }),
    Joi.object({ kind: Joi.valid('linear').required(), from: within, to: within, over, per: pace }),
    Joi.object({ kind: Joi.valid('exponential').required(), from: positive, to: positive, over, per: pace }),
    ...(ofRate
      ? [
          Joi.object({
            kind: Joi.valid('visits').required(),
            from: within,
            slowness: Joi.number().min(1).max(1e9).required(),
          }),
          Joi.object({ kind: Joi.valid('drop').required(), from: within, to: within }),
        ]
      : []),
  ]
  return Joi.alternatives(...kinds).messages({
    'alternatives.match':
      '{{#label}} is no schedule: give its kind and what belongs to it, with numbers in range',
    'alternatives.types':
      '{{#label}} is no schedule: give its kind and what belongs to it, with numbers in range',
  })
}
