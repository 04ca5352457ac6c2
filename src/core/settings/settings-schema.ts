import Joi from 'joi'
import { refuse } from '../problem'
import { LEARN_METHOD_IDS, type LearnMethodId } from '../learn/methods/methods'
import { EXPLORATIONS, type LearnSettings } from './settings'

/**
 * Settings as they stand in links, files and documents: all of a run but what it runs on; the policy that a prediction
 * method follows is named, as it is another one on another model.
 */
export type LearnChoice = Omit<LearnSettings, 'policy'> & {
  readonly method: LearnMethodId
  /** Where a policy that is followed comes from, by name. */
  readonly source: string
}

const pace = Joi.string().valid('episode', 'step').required()
const over = Joi.number().integer().min(1).max(1e9).required()

/** A schedule between two limits; those that fall by a factor need a floor above 0. */
function schedule(least: number, most: number, aboveLeast: boolean, ofRate: boolean): Joi.Schema {
  const number = aboveLeast ? Joi.number().greater(least).max(most) : Joi.number().min(least).max(most)
  const kinds = [
    Joi.object({ kind: Joi.valid('constant').required(), from: number.required() }),
    Joi.object({
      kind: Joi.valid('linear').required(),
      from: number.required(),
      to: number.required(),
      over,
      per: pace,
    }),
    Joi.object({
      kind: Joi.valid('exponential').required(),
      from: Joi.number().greater(0).max(most).required(),
      to: Joi.number().greater(0).max(most).required(),
      over,
      per: pace,
    }),
    ...(ofRate
      ? [
          Joi.object({
            kind: Joi.valid('visits').required(),
            from: number.required(),
            slowness: Joi.number().min(1).max(1e9).required(),
          }),
          Joi.object({ kind: Joi.valid('drop').required(), from: number.required(), to: number.required() }),
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

const LARGE = 1e9

/** Every field may be left out: what is not said is as a run begins with. */
export const choiceSchema = Joi.object({
  method: Joi.string().valid(...LEARN_METHOD_IDS),
  discount: Joi.number().min(0).max(1),
  learningRate: schedule(0, 1000, true, true),
  exploration: Joi.alternatives(
    Joi.object({
      way: Joi.valid('epsilon-greedy').required(),
      level: schedule(0, 1, false, false).required(),
    }),
    Joi.object({ way: Joi.valid('softmax').required(), level: schedule(0, LARGE, true, false).required() }),
  ).messages({
    'alternatives.match': `{{#label}} needs a way (${Object.keys(EXPLORATIONS).join(' or ')}) and a level, which is a schedule`,
  }),
  start: Joi.alternatives(
    Joi.object({ kind: Joi.valid('zero').required() }),
    Joi.object({
      kind: Joi.valid('constant').required(),
      value: Joi.number().min(-LARGE).max(LARGE).required(),
    }),
    Joi.object({ kind: Joi.valid('random').required(), spread: Joi.number().min(0).max(LARGE).required() }),
  ),
  ties: Joi.string().valid('random', 'first'),
  episodes: Joi.number().integer().min(1).max(10_000_000),
  cap: Joi.number().integer().min(1).max(1_000_000),
  stop: Joi.alternatives(
    Joi.object({ kind: Joi.valid('episodes').required() }),
    Joi.object({
      kind: Joi.valid('mean-return').required(),
      atLeast: Joi.number().min(-LARGE).max(LARGE).required(),
      over: Joi.number().integer().min(1).max(1_000_000).required(),
    }),
    Joi.object({
      kind: Joi.valid('steps').required(),
      count: Joi.number().integer().min(1).max(1e12).required(),
    }),
  ),
  seed: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER),
  run: Joi.number().integer().min(0).max(1_000_000),
  lookahead: Joi.number().integer().min(1).max(1000),
  lambda: Joi.number().min(0).max(1),
  traces: Joi.string().valid('accumulating', 'replacing'),
  counted: Joi.string().valid('first', 'every'),
  planning: Joi.number().integer().min(0).max(1000),
  threshold: Joi.number().min(0).max(LARGE),
  source: Joi.string().max(200),
})

/** @throws ProblemError naming the field that is wrong */
export function readChoice(value: unknown): Partial<LearnChoice> {
  const { error, value: choice } = choiceSchema.required().validate(value, { convert: false })
  if (error)
    refuse(
      error.details[0].path.join('.') || 'the settings',
      `They do not exist: ${error.message}.`,
      'Copy a link in Learn to see what settings look like.',
    )
  return choice as Partial<LearnChoice>
}
