import type { EnvironmentDocument } from '../../core/environment/document'
import { compiledOf } from './compiled'

/** The model's state at a cursor (a cell of a grid, a state of anything else), or null where there is none. */
export function stateAt(document: EnvironmentDocument, cursor: number | null): number | null {
  const result = compiledOf(document)
  if (cursor === null || !result.ok) return null
  const { layout, model } = result.compiled
  const state = layout ? (layout.stateOfCell[cursor] ?? -1) : cursor
  return state >= 0 && state < model.states ? state : null
}

/** The cursor that shows a state. */
export function cursorOf(document: EnvironmentDocument, state: number): number {
  const result = compiledOf(document)
  return result.ok && result.compiled.layout ? result.compiled.layout.cellOfState[state] : state
}
