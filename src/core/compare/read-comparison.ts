import Joi from 'joi'
import { checkEnvironment } from '../environment/document'
import { parseJson } from '../formats/json'
import type { EnvironmentDocument } from '../kinds/kinds'
import { checkCheckpoint } from '../learn/read-checkpoint'
import { ProblemError, refuse, within } from '../problem'
import type { LearnChoice } from '../settings/choice'
import { choiceSchema } from '../settings/choice-schema'
import { choiceIn } from '../settings/first-choice'
import {
  COMPARISON_FORMAT,
  COMPARISON_VERSION,
  FIRST_VIEW,
  PICTURES,
  type Comparison,
  type ComparisonView,
} from './comparison'
import type { Contestant } from './contestant'
import type { Followed } from './followed'
import { runMeasure } from './run-measures'
import { BANDS } from './run-statistics'
import { scoreOf } from './scores'

/** Contestants of a comparison at the most. */
const MOST_CONTESTANTS = 60
export const MOST_RUNS = 10_000

const text = (most: number) => Joi.string().max(most)
const label = text(400)

export const followedSchema = Joi.alternatives(
  Joi.object({ kind: Joi.valid('random', 'optimum').required() }),
  Joi.object({ kind: Joi.valid('action').required(), action: label.required() }),
  Joi.object({ kind: Joi.valid('written').required(), title: label.required() }),
  Joi.object({
    kind: Joi.valid('drawn').required(),
    drawing: Joi.object().pattern(label, label).max(20_000).required(),
  }),
  Joi.object({ kind: Joi.valid('table').required(), checkpoint: Joi.object().required() }),
).messages({
  'alternatives.match':
    '{{#label}} must have a kind: random, optimum, action (with its action), written (with its title), drawn (with its drawing) or table (with its checkpoint)',
})

const axis = Joi.object({ varied: text(80).required(), values: text(400).allow('').required() })

const viewSchema = Joi.object({
  picture: Joi.valid(...Object.keys(PICTURES)),
  measure: text(100).custom((id: string, helpers) => (runMeasure(id) ? id : helpers.error('any.invalid'))),
  beneath: Joi.valid('level', 'rate', null),
  along: Joi.valid('episodes', 'steps'),
  logarithmic: Joi.boolean(),
  smooth: Joi.number().integer().min(1).max(200),
  rolling: Joi.valid('mean', 'sum'),
  band: Joi.valid(...Object.keys(BANDS)),
  singles: Joi.boolean(),
  score: text(100).custom((id: string, helpers) => {
    try {
      scoreOf(id)
      return id
    } catch {
      return helpers.error('any.invalid')
    }
  }),
  sweep: Joi.object({ axes: Joi.array().items(axis).min(1).max(2).required() }),
})

export const comparisonSchema = Joi.object({
  format: Joi.valid(COMPARISON_FORMAT).required(),
  version: Joi.valid(COMPARISON_VERSION).required(),
  name: text(120).trim().min(1).required(),
  note: text(2000).allow('').default(''),
  environment: Joi.object(),
  runs: Joi.number().integer().min(1).max(MOST_RUNS).default(30),
  trials: Joi.number().integer().min(1).max(100_000).default(200),
  contestants: Joi.array()
    .items(
      Joi.object({
        id: Joi.number().integer().min(0).max(1e6),
        environment: Joi.object(),
        knobs: Joi.object().pattern(text(40), Joi.number()).default({}),
        options: Joi.object().pattern(text(80), text(200)),
        follows: followedSchema,
        choice: choiceSchema.default({}),
      }),
    )
    .max(MOST_CONTESTANTS)
    .required(),
  hidden: Joi.array().items(Joi.number().integer()).default([]),
  view: viewSchema.default({}),
}).required()

interface Said extends Omit<Comparison, 'contestants' | 'view' | 'environment'> {
  readonly environment?: unknown
  readonly contestants: readonly {
    readonly id?: number
    readonly environment?: unknown
    readonly knobs: Contestant['knobs']
    readonly options?: Contestant['options']
    readonly follows?: Followed
    readonly choice: Partial<LearnChoice>
  }[]
  readonly view: Partial<ComparisonView>
}

/**
 * Checks a value that claims to be a comparison; what it does not say is filled in.
 * @param otherwise  the environment, where it has none of its own
 * @throws ProblemError naming the place of everything that is wrong, up to twenty
 */
export function checkComparison(value: unknown, otherwise?: EnvironmentDocument): Comparison {
  const { error, value: checked } = comparisonSchema.validate(value, { abortEarly: false, convert: false })
  if (error)
    throw new ProblemError(
      error.details.slice(0, 20).map(({ path, message }) => ({
        place: path.join('.') || 'comparison',
        cause: `${message.slice(0, 300)}.`,
        remedy: 'See docs/formats.md for what a comparison looks like.',
      })),
    )
  const said = checked as Said
  const environment =
    said.environment === undefined
      ? undefined
      : within('environment', () => checkEnvironment(said.environment))
  const common = environment ?? otherwise
  const contestants = said.contestants.map((each, i): Contestant => {
    const place = `contestants.${i}`
    const own =
      each.environment === undefined
        ? undefined
        : within(`${place}.environment`, () => checkEnvironment(each.environment))
    const acts = own ?? common
    if (!acts)
      refuse(
        `${place}.environment`,
        'It says no environment, and neither does the comparison.',
        'Give the comparison an "environment", or name its file.',
      )
    const { follows } = each
    if (follows?.kind === 'table')
      within(`${place}.follows.checkpoint`, () => checkCheckpoint(follows.checkpoint))
    return {
      id: each.id ?? i,
      knobs: each.knobs,
      choice: choiceIn(acts, each.choice),
      ...(own ? { environment: own } : {}),
      ...(each.options ? { options: each.options } : {}),
      ...(follows ? { follows } : {}),
    }
  })
  const ids = contestants.map(({ id }) => id)
  const twice = ids.find((id, i) => ids.indexOf(id) !== i)
  if (twice !== undefined)
    refuse(
      'contestants',
      `Two of them have the number ${twice}.`,
      'Give each an "id" of its own, or none at all.',
    )
  return {
    ...said,
    ...(environment ? { environment } : {}),
    contestants,
    view: { ...FIRST_VIEW, ...said.view },
  } as Comparison
}

/** @throws ProblemError for text that is not JSON, or not a comparison */
export function parseComparison(json: string, otherwise?: EnvironmentDocument): Comparison {
  return checkComparison(parseJson(json, 'comparison'), otherwise)
}
