import type { Compiled } from '../../core/kinds/kinds'

/**
 * The model's state at a cursor, or null where there is none. Where states lie in places, as on the cells of a grid,
 * the cursor is a place; else it is a state.
 */
export function stateAt(compiled: Compiled | null, cursor: number | null): number | null {
  if (cursor === null || !compiled) return null
  const { places, model } = compiled
  if (!places) return cursor < model.states ? cursor : null
  const state = places.stateOfPlace[cursor] ?? -1
  return state >= 0 ? state : null
}

/** The cursor that shows a state. */
export function cursorOf(compiled: Compiled | null, state: number): number {
  return compiled?.places?.placeOfState[state] ?? state
}

/** Where the selected state is in a model that took another's place: found by its name, as numbers change. */
export function cursorAfter(
  before: Compiled | null,
  after: Compiled | null,
  cursor: number | null,
): number | null {
  // Places stay where they are.
  if (cursor === null || !before || !after || before.places || after.places) return cursor
  const found = after.model.labels.indexOf(before.model.labels[cursor])
  return found < 0 ? null : found
}
