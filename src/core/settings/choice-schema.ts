import Joi from 'joi'
import { LEARN_METHOD_IDS } from '../learn/methods/methods'
import { refuse } from '../problem'
import type { LearnChoice } from './choice'
import { schemaOf } from './schemas'
import { SETTING_NAMES } from './settings'

/** Every field may be left out: what is not said is as a run begins with. */
export const choiceSchema = Joi.object({
  method: Joi.string().valid(...LEARN_METHOD_IDS),
  ...Object.fromEntries(SETTING_NAMES.map((name) => [name, schemaOf(name)])),
  source: Joi.string().max(200),
})

/** @returns the settings, or what is wrong with them in words */
export function checkChoice(
  value: unknown,
): { readonly choice: Partial<LearnChoice> } | { readonly problem: string; readonly field: string } {
  const { error, value: choice } = choiceSchema.required().validate(value, { convert: false })
  return error
    ? { problem: error.message, field: error.details[0].path.join('.') }
    : { choice: choice as Partial<LearnChoice> }
}

/** @throws ProblemError naming the field that is wrong */
export function readChoice(value: unknown): Partial<LearnChoice> {
  const checked = checkChoice(value)
  if ('choice' in checked) return checked.choice
  return refuse(
    checked.field || 'the settings',
    `They do not exist: ${checked.problem}.`,
    'Copy a link in Learn to see what settings look like.',
  )
}
