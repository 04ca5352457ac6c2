import Joi from 'joi'
import { TEXT_LIMIT, type RulebookDocument } from './document'

const name = Joi.string().min(1).max(200)

export const rulebookSchema = Joi.object<RulebookDocument>({
  text: Joi.string()
    .allow('')
    .max(TEXT_LIMIT)
    .required()
    .messages({ 'string.max': `{{#label}} has more than ${TEXT_LIMIT} characters` }),
  knobs: Joi.object().pattern(name, Joi.number().min(-1e15).max(1e15)).max(200).default({}),
  view: Joi.object({
    across: name.allow(null).default(null),
    up: name.allow(null).default(null),
    others: Joi.object().pattern(name, name.allow(null)).max(400).default({}),
    dial: name.allow(null),
  }).default({ across: null, up: null, others: {} }),
})
