import { useRef } from 'react'
import { withDrawn } from '../../../core/evaluate/drawn-policy'
import { DIRECTIONS } from '../../../core/kinds/grid/directions'
import { useParts } from '../../study/study-context'
import { newStroke } from '../../../session/study/stroke'

/** Draws over the cells of a grid: each takes the action that leads to the next cell of the stroke. */
export function useDrawnPath(slice: number): (cell: number, first: boolean) => void {
  const { study, model } = useParts()
  const last = useRef(-1)
  const stroke = useRef(0)
  return (cell, first) => {
    const from = last.current
    last.current = cell
    if (first) {
      stroke.current = newStroke()
      return
    }
    const { compiled } = model.store.getState()
    const layout = compiled?.kind === 'grid' ? compiled.layout : undefined
    const state = layout?.slices[slice]?.stateOfCell[from] ?? -1
    if (!compiled || !layout || state < 0) return
    const across = (cell % layout.columns) - (from % layout.columns)
    const down = Math.floor(cell / layout.columns) - Math.floor(from / layout.columns)
    const action = DIRECTIONS.find(({ column, row }) => column === across && row === down)?.name
    if (!action || !compiled.model.actions.includes(action) || compiled.model.ending[state]) return
    const { document, edit } = study.getState()
    edit(
      { ...document, policy: withDrawn(document.policy, compiled.model.labels[state], action) },
      stroke.current,
    )
  }
}
