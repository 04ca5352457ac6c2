import Joi from 'joi'
import Papa from 'papaparse'
import { plainName } from '../formats/csv'
import { readNpy } from '../formats/npy'
import { refuse } from '../problem'
import { choiceSchema } from '../settings/choice-schema'
import { CHECKPOINT_FORMAT, CHECKPOINT_VERSION, VALUE, type Checkpoint } from './checkpoint'
import { LEARN_METHOD_IDS } from './methods/methods'
import type { World } from './world'

const name = Joi.string().max(400)

export const checkpointSchema = Joi.object({
  format: Joi.string().valid(CHECKPOINT_FORMAT).required(),
  version: Joi.number().valid(CHECKPOINT_VERSION).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  environment: Joi.string().allow('').max(200).default(''),
  method: Joi.string()
    .valid(...LEARN_METHOD_IDS)
    .required(),
  holds: Joi.string().valid('action values', 'preferences', 'values').required(),
  settings: choiceSchema.allow(null).default(null),
  steps: Joi.number().integer().min(0).max(1e15).default(0),
  episodes: Joi.number().integer().min(0).max(1e9).default(0),
  states: Joi.array().items(name).max(2_000_000).required(),
  actions: Joi.array().items(name).min(1).max(10_000).required(),
  values: Joi.array()
    .items(Joi.array().items(Joi.number().unsafe().allow(null)))
    .required(),
}).required()

/** @throws ProblemError naming what is wrong with a value that claims to be a checkpoint */
export function checkCheckpoint(value: unknown): Checkpoint {
  const { error, value: checked } = checkpointSchema.validate(value, { convert: false })
  if (error)
    refuse(
      error.details[0].path.join('.') || 'the file',
      `It is not a learned table in our format: ${error.message}.`,
      'Export a table from Learn to see what one looks like.',
    )
  const checkpoint = checked as Checkpoint
  if (
    checkpoint.values.length !== checkpoint.states.length ||
    checkpoint.values.some((line) => line.length !== checkpoint.actions.length)
  )
    refuse('values', 'There is not one number for each state and action.', 'Give null where there is none.')
  return checkpoint
}

/**
 * Reads a table from a file: our JSON, a CSV with the columns state, action and value (or state and value), or a .npy of
 * [states x actions] (or [states]) in the order of the model, where NaN stands for an action that a state does not have.
 * @throws ProblemError naming the place
 */
export function readCheckpoint(
  bytes: Uint8Array,
  fileName: string,
  world: World,
  about: Pick<Checkpoint, 'method' | 'holds' | 'environment'>,
): Checkpoint {
  const shared = {
    format: CHECKPOINT_FORMAT,
    version: CHECKPOINT_VERSION,
    name: fileName.replace(/\.\w+$/, '').slice(0, 120) || 'table',
    settings: null,
    steps: 0,
    episodes: 0,
    ...about,
  } as const
  if (bytes[0] === 0x93) return { ...shared, ...fromNpy(bytes, fileName, world) }
  const text = new TextDecoder('utf-8').decode(bytes).replace(/^\uFEFF/, '')
  if (!text.trimStart().startsWith('{')) return { ...shared, ...fromCsv(text, fileName) }
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    refuse(fileName, 'It begins like JSON, but it is damaged.', 'Export the table again.')
  }
  return checkCheckpoint(value)
}

type Content = Pick<Checkpoint, 'holds' | 'states' | 'actions' | 'values'>

function fromNpy(bytes: Uint8Array, fileName: string, { model }: World): Content {
  const { values, shape } = readNpy(bytes, fileName)
  const width = shape.length === 1 ? 1 : shape[1]
  const ofStates = shape.length === 1
  if (shape[0] !== model.states || (!ofStates && width !== model.actions.length))
    refuse(
      fileName,
      `It is an array of ${shape.join(' x ')}, and this environment has ${model.states} states and ${model.actions.length} actions.`,
      'An array has no names, so it must have the shape of this environment; CSV and JSON carry names.',
    )
  return {
    holds: ofStates ? 'values' : 'action values',
    states: model.labels,
    actions: ofStates ? [VALUE] : model.actions,
    values: model.labels.map((_, s) =>
      Array.from(values.subarray(s * width, (s + 1) * width), (value) =>
        Number.isFinite(value) ? value : null,
      ),
    ),
  }
}

function fromCsv(text: string, fileName: string): Content {
  const { data, meta, errors } = Papa.parse<Record<string, string>>(text.trim(), {
    header: true,
    skipEmptyLines: true,
  })
  const fields = meta.fields ?? []
  const wrong = errors.find(({ code }) => code !== 'UndetectableDelimiter')
  if (wrong)
    refuse(`${fileName}, line ${(wrong.row ?? 0) + 2}`, `${wrong.message}.`, 'Check the quotes and commas.')
  for (const needed of ['state', VALUE])
    if (!fields.includes(needed))
      refuse(
        fileName,
        `There is no column ${needed}.`,
        'A table has the columns state, action and value, or state and value.',
      )
  const ofStates = !fields.includes('action')
  const states = new Map<string, number>()
  const actions = new Map<string, number>(ofStates ? [[VALUE, 0]] : [])
  const cells = data.map((line, i) => {
    const value = line[VALUE].trim() === '' ? null : Number(line[VALUE])
    if (value !== null && !Number.isFinite(value))
      refuse(
        `${fileName}, line ${i + 2}`,
        `"${line[VALUE]}" is no number.`,
        'Write a number, or nothing where there is none.',
      )
    const action = ofStates ? VALUE : plainName(line.action)
    const state = plainName(line.state)
    if (!states.has(state)) states.set(state, states.size)
    if (!actions.has(action)) actions.set(action, actions.size)
    return { state: states.get(state)!, action: actions.get(action)!, value }
  })
  const values = Array.from({ length: states.size }, () => new Array<number | null>(actions.size).fill(null))
  for (const { state, action, value } of cells) values[state][action] = value
  return {
    holds: ofStates ? 'values' : 'action values',
    states: [...states.keys()],
    actions: [...actions.keys()],
    values,
  }
}
