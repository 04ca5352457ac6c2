import Joi from 'joi'
import { followedPolicy } from '../compare/followed'
import { followedSchema } from '../compare/read-comparison'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import { parseJson } from '../formats/json'
import { ProblemError, within } from '../problem'
import { environmentOf, EXERCISE_FORMAT, EXERCISE_VERSION, SHOWS, type Exercise } from './exercise'
import { HAND_INS } from './hand-in'

const MOST_LEVELS = 20
const seed = Joi.number()
  .integer()
  .min(0)
  .max(2 ** 32 - 1)

export const exerciseSchema = Joi.object({
  format: Joi.valid(EXERCISE_FORMAT).required(),
  version: Joi.valid(EXERCISE_VERSION).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  note: Joi.string().max(20_000).allow('').default(''),
  environment: Joi.object().required(),
  levels: Joi.array()
    .items(
      Joi.object({
        name: Joi.string().trim().min(1).max(80).required(),
        knobs: Joi.object().pattern(Joi.string().max(80), Joi.number()).default({}),
        points: Joi.number().min(0).max(1e6).default(1),
      }),
    )
    .unique('name')
    .min(1)
    .max(MOST_LEVELS)
    .required(),
  episodes: Joi.number().integer().min(1).max(100_000).default(1000),
  seeds: Joi.object({ open: seed.default(1), hidden: seed.allow(null).default(null) }).default({
    open: 1,
    hidden: null,
  }),
  accepts: Joi.array()
    .items(Joi.valid(...Object.keys(HAND_INS), 'program'))
    .unique()
    .min(1)
    .default(Object.keys(HAND_INS)),
  shows: Joi.valid(...Object.keys(SHOWS)).default('board'),
  reference: followedSchema.allow(null).default(null),
}).required()

/**
 * Checks a value that claims to be an exercise, on every level; what it does not say is filled in.
 * @throws ProblemError naming the place of everything that is wrong, up to twenty
 */
export function checkExercise(value: unknown): Exercise {
  const { error, value: said } = exerciseSchema.validate(value, { abortEarly: false, convert: false })
  if (error)
    throw new ProblemError(
      error.details.slice(0, 20).map(({ path, message }) => ({
        place: path.join('.') || 'exercise',
        cause: `${message}.`,
        remedy: 'See docs/formats.md for what an exercise looks like.',
      })),
    )
  const environment = within('environment', () => checkEnvironment((said as Exercise).environment))
  const exercise: Exercise = { ...(said as Exercise), environment }
  exercise.levels.forEach((level, i) =>
    within(`levels.${i}`, () => {
      const document = environmentOf(exercise, level)
      const compiled = compileEnvironment(document)
      if (exercise.reference) followedPolicy(compiled, exercise.reference, document.discount)
    }),
  )
  return exercise
}

/** @throws ProblemError for text that is not JSON, or not an exercise */
export function parseExercise(json: string): Exercise {
  return checkExercise(parseJson(json, 'exercise'))
}
