import Joi from 'joi'
import { choiceSchema } from '../settings/choice-schema'
import { checksSchema } from './document-check-schema'
import { FORMAT, VERSION } from './head'
import type { NamedNumber } from './named-number'

const finite = Joi.number().min(-1e12).max(1e12).required()

const knobSchema = Joi.object<NamedNumber>({
  name: Joi.string()
    .pattern(/^[\p{L}_][\p{L}\p{N}_]*$/u)
    .max(40)
    .required()
    .messages({
      'string.pattern.base': '{{#label}} must be a word of letters, digits and _, beginning with a letter',
    }),
  sets: Joi.string().min(1).max(200).required(),
  low: finite,
  high: finite.greater(Joi.ref('low')).messages({ 'number.greater': '{{#label}} must be above its low' }),
  step: Joi.number().greater(0).max(1e12).required(),
})

/** Of the head of a document, but for its kind. */
export const headFields: Joi.SchemaMap = {
  format: Joi.string().valid(FORMAT).required(),
  version: Joi.number().valid(VERSION).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  note: Joi.string().allow('').max(4000).default(''),
  discount: Joi.number().min(0).max(1).default(0.95),
  cap: Joi.number().integer().min(0).max(1_000_000).default(200),
  knobs: Joi.array().items(knobSchema).max(50).unique('name').default([]),
  policy: Joi.object().pattern(Joi.string().max(200), Joi.string().max(200)).max(20_000),
  checks: checksSchema,
  learning: choiceSchema,
}
