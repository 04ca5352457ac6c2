import Joi from 'joi'
import Papa from 'papaparse'
import { plainName } from '../formats/csv'
import { readNpy } from '../formats/npy'
import { listNames, refuse } from '../problem'
import type { TableHolds } from './learner'
import { LEARN_METHOD_IDS, type LearnMethodId } from './methods/methods'
import { choiceSchema, type LearnChoice } from '../settings/choice'
import type { World } from './world'

export const CHECKPOINT_FORMAT = 'jaunty-pawn/table'
export const CHECKPOINT_VERSION = 1

/**
 * A learned table by names, so that it can be carried to another version or variant of its environment. `values` has a
 * line for each of `states` and a column for each of `actions` (one column, `value`, where it holds values of states);
 * null stands for an action that a state does not have.
 */
export interface Checkpoint {
  readonly format: typeof CHECKPOINT_FORMAT
  readonly version: typeof CHECKPOINT_VERSION
  readonly name: string
  /** The environment it was learned on, by name. */
  readonly environment: string
  readonly method: LearnMethodId
  readonly holds: TableHolds
  /** The settings it was learned with; null when nobody knows. */
  readonly settings: Partial<LearnChoice> | null
  readonly steps: number
  readonly episodes: number
  readonly states: readonly string[]
  readonly actions: readonly string[]
  readonly values: readonly (readonly (number | null)[])[]
}

const VALUE = 'value'
const name = Joi.string().max(400)

const checkpointSchema = Joi.object({
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
      `It is no table of ours: ${error.message}.`,
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

/** The table of a run by names. */
export function makeCheckpoint(
  world: World,
  table: Float64Array,
  about: Pick<Checkpoint, 'name' | 'environment' | 'method' | 'holds' | 'settings' | 'steps' | 'episodes'>,
): Checkpoint {
  const { model, tableStart, tableAction } = world
  const observations = Array.from({ length: model.observations }, (_, observation) => observation).filter(
    (observation) => tableStart[observation] < tableStart[observation + 1],
  )
  const ofStates = about.holds === 'values'
  const place = firstStates(world)
  return {
    format: CHECKPOINT_FORMAT,
    version: CHECKPOINT_VERSION,
    ...about,
    states: observations.map((observation) => model.labels[place[observation]]),
    actions: ofStates ? [VALUE] : model.actions,
    values: observations.map((observation) => {
      if (ofStates) return [table[observation]]
      const line = new Array<number | null>(model.actions.length).fill(null)
      for (let row = tableStart[observation]; row < tableStart[observation + 1]; row++)
        line[tableAction[row]] = table[row]
      return line
    }),
  }
}

/** A checkpoint on another model. */
export interface Carried {
  /** [cells of the table] NaN where the checkpoint says nothing */
  readonly table: Float64Array
  /** How many cells were found by name, and how many there are. */
  readonly found: number
  readonly cells: number
  /** States of the model that the checkpoint does not know, and the other way round. */
  readonly missing: readonly string[]
  readonly unused: readonly string[]
}

/**
 * Carries a table to a model, state by state and action by action, by name. Of states that look alike to the agent any
 * one will do.
 * @throws ProblemError when the numbers are of another kind, or nothing matches
 */
export function carryCheckpoint(checkpoint: Checkpoint, world: World, holds: TableHolds): Carried {
  if (checkpoint.holds !== holds)
    refuse(
      checkpoint.name,
      `Its table holds ${checkpoint.holds}, and the method chosen works with ${holds}.`,
      'Choose a method that works with such a table, as the one it was learned by.',
    )
  const { model, tableStart, tableAction } = world
  const ofStates = holds === 'values'
  const lines = new Map(checkpoint.states.map((label, i) => [label, i]))
  const columns = ofStates ? [0] : model.actions.map((action) => checkpoint.actions.indexOf(action))
  const used = new Uint8Array(checkpoint.states.length)
  const lineOf = new Int32Array(model.observations).fill(-1)
  for (let s = 0; s < model.states; s++) {
    const line = lines.get(model.labels[s])
    if (line === undefined) continue
    used[line] = 1
    if (lineOf[model.observation[s]] < 0) lineOf[model.observation[s]] = line
  }
  const table = new Float64Array(ofStates ? model.observations : world.tableRows).fill(NaN)
  const missing: string[] = []
  const place = firstStates(world)
  let cells = 0
  let found = 0
  for (let observation = 0; observation < model.observations; observation++) {
    if (tableStart[observation] === tableStart[observation + 1]) continue
    const line = lineOf[observation]
    if (line < 0) missing.push(model.labels[place[observation]])
    for (
      let row = tableStart[observation];
      row < (ofStates ? tableStart[observation] + 1 : tableStart[observation + 1]);
      row++
    ) {
      cells++
      const value =
        line < 0 ? null : (checkpoint.values[line][columns[ofStates ? 0 : tableAction[row]]] ?? null)
      if (value === null) continue
      table[ofStates ? observation : row] = value
      found++
    }
  }
  if (found === 0)
    refuse(
      checkpoint.name,
      `None of its states is here by name: it knows ${listNames(checkpoint.states)}.`,
      'Take a table of this environment, of a variant or of another version of it.',
    )
  return { table, found, cells, missing, unused: checkpoint.states.filter((_, i) => !used[i]) }
}

/** What came of carrying, for people. */
export function carriedInWords({ found, cells, missing, unused }: Carried): string {
  if (found === cells && unused.length === 0) return 'every number found its place by name'
  return [
    `${found} of ${cells} numbers found their place by name`,
    missing.length ? `new here, and begun afresh: ${listNames(missing)}` : '',
    unused.length ? `not here any more: ${listNames(unused)}` : '',
  ]
    .filter(Boolean)
    .join('; ')
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

/** The first state of each observation. */
function firstStates({ model }: World): Int32Array {
  const first = new Int32Array(model.observations)
  for (let s = model.states - 1; s >= 0; s--) first[model.observation[s]] = s
  return first
}
