import Joi from 'joi'
import { LEARN_METHOD_IDS } from '../core/learn/methods/methods'
import { ProblemError } from '../core/problem'

const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most)

/** Every option that is a number or one of a list, checked the same way in every command. */
export const optionSchemas = {
  discount: Joi.number().min(0).max(1),
  tolerance: Joi.number().greater(0).max(1e6),
  horizon: whole(1, 1_000_000),
  episodes: whole(1, 10_000_000),
  seed: whole(0, Number.MAX_SAFE_INTEGER),
  runs: whole(1, 10_000),
  learningRate: Joi.number().greater(0).max(1000),
  exploration: Joi.number().min(0).max(1),
  cap: whole(1, 1_000_000),
  lambda: Joi.number().min(0).max(1),
  lookahead: whole(1, 1000),
  planning: whole(0, 1000),
  threshold: Joi.number().min(0).max(1e9),
  run: whole(0, 1_000_000),
  learnMethod: Joi.string().valid(...LEARN_METHOD_IDS),
  planMethod: Joi.string().valid('value-iteration'),
} as const

/** Checks one option; undefined stays undefined. @throws ProblemError naming the option */
export function readOption<T extends string | number>(
  name: string,
  value: unknown,
  schema: Joi.Schema,
): T | undefined {
  if (value === undefined) return undefined
  const { error, value: checked } = schema.validate(value)
  if (error)
    throw new UsageError([
      {
        place: `--${name}`,
        cause: `"${String(value).slice(0, 60)}" does not fit: ${error.details[0].message.replace('"value"', 'it')}.`,
        remedy: `See \`pawn --help\`.`,
      },
    ])
  return checked as T
}

/** Wrong use of the command line, as against a wrong file: exit code 2. */
export class UsageError extends ProblemError {}
