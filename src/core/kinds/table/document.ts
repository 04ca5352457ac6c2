import { ModelBuilder } from '../../model/builder'
import type { Model } from '../../model/model'
import { ProblemError, refuse, type Problem } from '../../problem'
import type { Transition } from './transition'

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
