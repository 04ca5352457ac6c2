import Joi from 'joi'
import { learnMethod, LEARN_METHOD_IDS, type LearnMethodId } from '../learn/methods/methods'
import { refuse } from '../problem'
import { schemaOf } from './setting'
import { setting, SETTING_NAMES, type LearnSettings } from './settings'

/**
 * Settings as they stand in links, files and documents: all of a run but what it runs on; the policy that a prediction
 * method follows is named, as it is another one on another model.
 */
export type LearnChoice = Omit<LearnSettings, 'policy'> & {
  readonly method: LearnMethodId
  /** Where a policy that is followed comes from, by name. */
  readonly source: string
}

/** Every field may be left out: what is not said is as a run begins with. */
export const choiceSchema = Joi.object({
  method: Joi.string().valid(...LEARN_METHOD_IDS),
  ...Object.fromEntries(SETTING_NAMES.map((name) => [name, schemaOf(setting(name))])),
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

/**
 * The settings that a learner is given for a choice.
 * @param find  finds the policy that a source names
 */
export function settingsOf(
  { method, source, ...settings }: LearnChoice,
  find: (source: string) => LearnSettings['policy'],
): LearnSettings {
  const follows = learnMethod(method).settings.includes('policy')
  return { ...settings, policy: follows ? find(source) : null }
}
