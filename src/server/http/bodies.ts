import type Joi from 'joi'
import { withVisibleSigns } from '../../core/environment/visible'
import { refuse } from '../../core/problem'

/** What a request sent, checked. @throws ProblemError naming the place of what is wrong first */
export function checkedBody<T>(schema: Joi.ObjectSchema, body: unknown): T {
  const { error, value } = schema.validate(body, { convert: false })
  if (error)
    refuse(error.details[0].path.join('.') || 'request', `${error.message}.`, 'Send what it asks for.')
  return withVisibleSigns(value as T)
}
