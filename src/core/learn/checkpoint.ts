import { listNames, refuse } from '../problem'
import type { TableHolds } from './learner'
import type { LearnMethodId } from './methods/methods'
import { type LearnChoice } from '../settings/choice'
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

/** The only column of a table that holds values of states. */
export const VALUE = 'value'
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
    missing.length ? `new here, with initial values: ${listNames(missing)}` : '',
    unused.length ? `not here any more: ${listNames(unused)}` : '',
  ]
    .filter(Boolean)
    .join('; ')
}

/** The first state of each observation. */
function firstStates({ model }: World): Int32Array {
  const first = new Int32Array(model.observations)
  for (let s = model.states - 1; s >= 0; s--) first[model.observation[s]] = s
  return first
}
