import Joi from 'joi'
import { PROBABILITY_SLACK } from '../../model/builder'
import type { TableDocument } from './document'
import { NAME_LIMIT } from './transition'

const label = Joi.string().min(1).max(NAME_LIMIT)
/** In a sheet that is being filled in, names may still be missing: the compiler asks for them. */
const open = Joi.string().allow('').max(NAME_LIMIT).required()
const coordinate = Joi.number().min(-1e6).max(1e6).required()

export const tableSchema = Joi.object<TableDocument>({
  transitions: Joi.array()
    .items(
      Joi.array()
        .ordered(
          open,
          open,
          open,
          Joi.number()
            .min(0)
            .max(1 + PROBABILITY_SLACK)
            .required(),
          Joi.number().min(-1e300).max(1e300).unsafe().required(),
          Joi.number().min(0).max(1),
        )
        .min(5)
        .max(6),
    )
    .required(),
  starts: Joi.array()
    .items(Joi.object({ state: label.required(), weight: Joi.number().greater(0).max(1e9).default(1) }))
    .default([]),
  observations: Joi.object().pattern(Joi.string().max(NAME_LIMIT), label),
  places: Joi.object()
    .pattern(Joi.string().max(3 * NAME_LIMIT), Joi.array().ordered(coordinate, coordinate).length(2))
    .default({}),
})
