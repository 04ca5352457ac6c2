import type { Compiled } from '../../core/environment/document'

/**
 * The model's state at a cursor, or null where there is none. The cursor of a grid is a cell, counted on through the
 * slices in which different things are held; that of anything else is a state.
 */
export function stateAt(compiled: Compiled | null, cursor: number | null): number | null {
  if (cursor === null || !compiled) return null
  const { layout, model } = compiled
  if (!layout) return cursor < model.states ? cursor : null
  const cells = layout.columns * layout.rows
  const state = layout.slices[Math.floor(cursor / cells)]?.stateOfCell[cursor % cells] ?? -1
  return state >= 0 ? state : null
}

/** The cursor that shows a state. */
export function cursorOf(compiled: Compiled | null, state: number): number {
  const layout = compiled?.layout
  if (!layout) return state
  return layout.sliceOfState[state] * layout.columns * layout.rows + layout.cellOfState[state]
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
