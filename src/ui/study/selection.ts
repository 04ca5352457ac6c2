import type { Compiled } from '../../core/environment/document'

/** The model's state at a cursor (a cell of a grid, a state of anything else), or null where there is none. */
export function stateAt(compiled: Compiled | null, cursor: number | null): number | null {
  if (cursor === null || !compiled) return null
  const { layout, model } = compiled
  const state = layout ? (layout.stateOfCell[cursor] ?? -1) : cursor
  return state >= 0 && state < model.states ? state : null
}

/** The cursor that shows a state. */
export function cursorOf(compiled: Compiled | null, state: number): number {
  return compiled?.layout ? compiled.layout.cellOfState[state] : state
}

/** Where the selected state is in a model that took another's place: found by its name, as numbers change. */
export function cursorAfter(
  before: Compiled | null,
  after: Compiled | null,
  cursor: number | null,
): number | null {
  // The cells of a grid stay where they are.
  if (cursor === null || !before || !after || before.layout || after.layout) return cursor
  const found = after.model.labels.indexOf(before.model.labels[cursor])
  return found < 0 ? null : found
}
