import Joi from 'joi'
import { withVisibleSigns } from '../../core/environment/visible'
import { refuse } from '../../core/problem'

/** What a request sent, checked. @throws ProblemError naming the place of what is wrong first */
export function checkedBody<T>(schema: Joi.ObjectSchema, body: unknown): T {
  const { error, value } = schema.validate(body, { convert: false })
  if (error)
    refuse(error.details[0].path.join('.') || 'request', `${error.message}.`, 'Send what it asks for.')
  return withVisibleSigns(value as T)
}

/** A text that somebody wrote, without the spaces around it. @param max  the most signs it may have */
export function writtenText(max: number): Joi.StringSchema {
  return Joi.string()
    .max(max)
    .custom((text: string, helpers) => text.trim() || helpers.error('string.empty'))
}
