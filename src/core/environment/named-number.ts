import Joi from 'joi'

/** A number of the document that can be turned by a name of its own. Its value is the number itself. */
export interface NamedNumber {
  readonly name: string
  /** Which number, as `numbersOf` names it: `veer`, `endings[J4].reward`. */
  readonly sets: string
  readonly low: number
  readonly high: number
  readonly step: number
}

const finite = Joi.number().min(-1e12).max(1e12).required()

export const knobSchema = Joi.object<NamedNumber>({
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
