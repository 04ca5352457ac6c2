import Joi from 'joi'
import { ModelBuilder, PROBABILITY_SLACK } from '../../model/builder'
import type { Model } from '../../model/model'
import { ProblemError, refuse, type Problem } from '../../problem'
import { NAME_LIMIT, type Transition } from './transition-list'

/** An environment given outcome by outcome, as a list or a sheet. */
export interface TableDocument {
  readonly transitions: readonly Transition[]
  /** Where episodes start, with weights; the state of the first line when empty. */
  readonly starts: readonly { readonly state: string; readonly weight: number }[]
  /** What states look like to the agent, by name; those that are not named look like themselves. */
  readonly observations?: Readonly<Record<string, string>>
  /** Where states and actions were put in the drawing, by their keys there; the others find their place. */
  readonly places: Readonly<Record<string, readonly [x: number, y: number]>>
}

const label = Joi.string().min(1).max(NAME_LIMIT)
/** In a sheet that is being filled in, names may still be missing: the compiler asks for them. */
const open = Joi.string().allow('').max(NAME_LIMIT).required()
const coordinate = Joi.number().min(-1e6).max(1e6).required()

export const tableSchema = Joi.object<TableDocument>({
  transitions: Joi.array()
    .items(
      Joi.array()
        .ordered(
          open,
          open,
          open,
          Joi.number()
            .min(0)
            .max(1 + PROBABILITY_SLACK)
            .required(),
          Joi.number().min(-1e300).max(1e300).unsafe().required(),
          Joi.number().min(0).max(1),
        )
        .min(5)
        .max(6),
    )
    .required(),
  starts: Joi.array()
    .items(Joi.object({ state: label.required(), weight: Joi.number().greater(0).max(1e9).default(1) }))
    .default([]),
  observations: Joi.object().pattern(Joi.string().max(NAME_LIMIT), label),
  places: Joi.object()
    .pattern(Joi.string().max(3 * NAME_LIMIT), Joi.array().ordered(coordinate, coordinate).length(2))
    .default({}),
})

/**
 * States in the order in which they first stand in `state`, then those that only are next states: the endings.
 * @throws ProblemError for missing names, rows that do not sum to 1 and starts that are not states
 */
export function compileTable(table: TableDocument, cap: number): Model {
  refuseGaps(table)
  const builder = new ModelBuilder()
  for (const [state] of table.transitions) builder.state(state)
  for (const [state, action, next, probability, reward, discount] of table.transitions)
    builder.outcome(
      builder.row(builder.state(state), builder.action(action)),
      builder.state(next),
      probability,
      reward,
      discount,
    )
  const starts = table.starts.length ? table.starts : [{ state: table.transitions[0][0], weight: 1 }]
  return builder.build({
    cap,
    observation: observationOf(table, builder),
    starts: starts.map(({ state, weight }, i) => {
      const number = builder.find(state)
      if (number === undefined)
        return refuse(`table.starts[${i}]`, `There is no state "${state}".`, 'Name a state of the list.')
      return { state: number, weight }
    }),
  })
}

/** [states] what each looks like, numbered in the order of the states; undefined where each looks like itself. */
function observationOf({ observations = {} }: TableDocument, builder: ModelBuilder): Int32Array | undefined {
  if (Object.keys(observations).length === 0) return undefined
  for (const state of Object.keys(observations))
    if (builder.find(state) === undefined)
      refuse('table.observations', `There is no state "${state}".`, 'Name a state of the list.')
  const numbers = new Map<string, number>()
  return Int32Array.from(builder.names, (name) => {
    // A state that is not named looks like itself, which no other one does but by name.
    const seen = Object.hasOwn(observations, name) ? observations[name] : name
    if (!numbers.has(seen)) numbers.set(seen, numbers.size)
    return numbers.get(seen)!
  })
}

/** @throws ProblemError for a table without rows, and for names that are missing */
export function refuseGaps({ transitions }: TableDocument): void {
  if (transitions.length === 0)
    refuse('table.transitions', 'The table has no rows.', 'Add one for each outcome of each action.')
  const problems: Problem[] = []
  transitions.forEach((transition, i) => {
    const gap = (['state', 'action', 'next state'] as const).find((_, field) => transition[field] === '')
    if (gap && problems.length < 20)
      problems.push({ place: `row ${i + 1}`, cause: `The ${gap} has no name.`, remedy: 'Write one.' })
  })
  if (problems.length) throw new ProblemError(problems)
}
