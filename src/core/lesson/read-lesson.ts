import Joi from 'joi'
import { checkComparison } from '../compare/read-comparison'
import { checkEnvironment } from '../environment/document'
import { parseJson } from '../formats/json'
import { kindOf } from '../kinds/kinds'
import { MOST_HELD } from '../plan/held-names'
import { PLAN_METHOD_IDS } from '../plan/plan-methods'
import { FIRST_CHOSEN, PLAN_SETTING_NAMES, PLAN_SETTINGS } from '../plan/plan-settings'
import { ProblemError, refuse, within } from '../problem'
import { choiceSchema } from '../settings/choice-schema'
import { choiceIn, EQUIPROBABLE } from '../settings/first-choice'
import { flagSchema } from '../settings/schemas'
import {
  LESSON_FORMAT,
  LESSON_VERSION,
  type Lesson,
  type LessonEnvironment,
  type LessonView,
} from './lesson-document'
import { LAYER_NAMES, STAGE_NAMES, VIEW_NAMES } from './names'
import type { LearnScene, PlanScene, Scene } from './scene'

/** Views of a lesson at the most, and environments. */
const MOST_VIEWS = 100
/** Steps of an episode by hand at the most. */
const MOST_MOVES = 10_000
/** Letters of a text at the most. */
const MOST_LETTERS = 20_000

const name = Joi.string().max(200)
const count = Joi.number().integer().min(0).max(1e12)

const label = Joi.string().max(400)
const heldPlan = Joi.object({
  title: name.allow('').default(''),
  values: Joi.object().pattern(label, Joi.number()).max(MOST_HELD).required(),
  policy: Joi.object()
    .pattern(label, Joi.object().pattern(label, Joi.number().min(0).max(1)))
    .max(MOST_HELD)
    .default({}),
})

const planScene = Joi.object({
  method: Joi.valid(...PLAN_METHOD_IDS).required(),
  discount: Joi.number().min(0).max(1),
  source: name.default(EQUIPROBABLE),
  ...Object.fromEntries(
    PLAN_SETTING_NAMES.map((each) => [
      each,
      flagSchema(PLAN_SETTINGS[each]).default(FIRST_CHOSEN[each] as never),
    ]),
  ),
  unit: Joi.valid('sweep', 'backup').default('sweep'),
  held: heldPlan.allow(null).default(null),
  beside: Joi.valid(...PLAN_METHOD_IDS, null).default(null),
  finished: Joi.boolean().default(false),
  sweep: count.default(0),
  done: count.allow(null).default(null),
  backups: count.default(0),
})

const learnScene = Joi.object({
  choice: choiceSchema.default({}),
  steps: count.default(0),
  reached: count.default(Joi.ref('steps')),
  window: Joi.number().integer().min(1).max(1e6).default(50),
  episodeStep: count.allow(null).default(null),
  seeds: Joi.number().integer().min(0).max(500).default(0),
})

const handScene = Joi.object({
  seed: count.default(1),
  episode: count.default(0),
  start: label.allow(null).default(null),
  moves: Joi.array()
    .items(Joi.object({ action: label.required(), forced: count.allow(null).default(null) }))
    .max(MOST_MOVES)
    .default([]),
})

/** What a scene may be; what it does not say is as an environment is opened. */
export const sceneSchema = Joi.object({
  stage: Joi.valid(...STAGE_NAMES).required(),
  view: Joi.valid(...VIEW_NAMES).default('board'),
  layers: Joi.array()
    .items(Joi.valid(...LAYER_NAMES))
    .default(['values', 'policy', 'changes']),
  selected: name.allow(null).default(null),
  spread: Joi.boolean().default(false),
  planned: Joi.boolean().default(false),
  knobs: Joi.object().pattern(Joi.string().max(80), Joi.number()).default({}),
  tabs: Joi.object().pattern(Joi.string().max(80), Joi.string().max(80)).default({}),
  folds: Joi.object().pattern(Joi.string().max(80), Joi.boolean()).default({}),
  plan: planScene.allow(null).default(null),
  learn: learnScene.allow(null).default(null),
  compare: Joi.object().allow(null).default(null),
  check: Joi.object({
    finding: name.allow(null).default(null),
    at: count.default(0),
    hand: handScene.allow(null).default(null),
  })
    .allow(null)
    .default(null),
})

export const lessonSchema = Joi.object({
  format: Joi.valid(LESSON_FORMAT).required(),
  version: Joi.valid(LESSON_VERSION).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  note: Joi.string().max(2000).allow('').default(''),
  environments: Joi.object()
    .pattern(
      Joi.string().max(40),
      Joi.object({ shelf: name.allow(null).default(null), document: Joi.object().required() }),
    )
    .max(MOST_VIEWS)
    .required(),
  views: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().max(40).required(),
        title: Joi.string().max(200).allow('').default(''),
        text: Joi.string().max(MOST_LETTERS).allow('').default(''),
        notes: Joi.string().max(MOST_LETTERS).allow('').default(''),
        environment: Joi.string().max(40).required(),
        scene: sceneSchema.required(),
        timeline: Joi.boolean().default(false),
        column: Joi.boolean().default(false),
      }),
    )
    .unique('id')
    .max(MOST_VIEWS)
    .required(),
}).required()

/**
 * Checks a value that claims to be a lesson; what it does not say is filled in.
 * @throws ProblemError naming the place of everything that is wrong, up to twenty
 */
export function checkLesson(value: unknown): Lesson {
  const said = checked<Lesson>(lessonSchema, value, 'lesson')
  const environments = Object.fromEntries(
    Object.entries(said.environments).map(([key, { shelf, document }]): [string, LessonEnvironment] => [
      key,
      { shelf, document: within(`environments.${key}`, () => shapedEnvironment(document)) },
    ]),
  )
  const views = said.views.map((view, i): LessonView => {
    const place = `views.${i}`
    if (!Object.hasOwn(environments, view.environment))
      refuse(
        `${place}.environment`,
        `There is no environment “${view.environment}” in the lesson.`,
        `Give it one of: ${Object.keys(environments).join(', ') || 'none is there'}.`,
      )
    const { document } = environments[view.environment]
    return { ...view, scene: within(`${place}.scene`, () => completeScene(view.scene, document)) }
  })
  return { ...said, environments, views }
}

/** @throws ProblemError naming the place of everything that is wrong */
export function checkScene(value: unknown, document: LessonEnvironment['document']): Scene {
  return completeScene(checked<Scene>(sceneSchema.required(), value, 'view'), document)
}

/** @throws ProblemError for text that is not JSON, or not a lesson */
export function parseLesson(json: string): Lesson {
  return checkLesson(parseJson(json, 'lesson'))
}

/** A scene with what it does not say of runs and plans as they begin in its environment. */
function completeScene(scene: Scene, document: LessonEnvironment['document']): Scene {
  const learn: LearnScene | null = scene.learn && {
    ...scene.learn,
    choice: choiceIn(document, scene.learn.choice),
  }
  const plan: PlanScene | null = scene.plan && {
    ...scene.plan,
    discount: scene.plan.discount ?? document.discount,
  }
  const compare = scene.compare && within('compare', () => checkComparison(scene.compare, document))
  return { ...scene, learn, plan, compare }
}

function shapedEnvironment(value: unknown) {
  const document = checkEnvironment(value)
  kindOf(document).checkShape(document)
  return document
}

function checked<T>(schema: Joi.ObjectSchema, value: unknown, what: string): T {
  const { error, value: found } = schema.validate(value, { abortEarly: false, convert: false })
  if (error)
    throw new ProblemError(
      error.details.slice(0, 20).map(({ path, message }) => ({
        place: path.join('.') || what,
        cause: `${message.slice(0, 300)}.`,
        remedy: 'See docs/formats.md for what a lesson looks like.',
      })),
    )
  return found as T
}
