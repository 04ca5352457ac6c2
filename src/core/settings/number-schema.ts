import Joi from 'joi'
import type { NumberRange } from './setting'

export function numberSchema({ min, max, aboveMin, whole }: NumberRange): Joi.NumberSchema {
  const any = whole ? Joi.number().integer() : Joi.number()
  return (aboveMin ? any.greater(min) : any.min(min)).max(max)
}
