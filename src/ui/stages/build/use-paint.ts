import { useCallback, useRef } from 'react'
import { paintLine } from '../../../core/grid/edit'
import { useParts } from '../../study/study-context'
import { useBrush } from './brush'

/** Painting with the tool in hand; one stroke is one step of undo. */
export function usePaint(): (cell: number, first: boolean) => void {
  const { study } = useParts()
  const stroke = useRef({ id: 0, last: 0 })
  return useCallback(
    (cell, first) => {
      const { document, edit } = study.getState()
      if (document.kind !== 'grid') return
      const columns = document.grid.floor[0].length
      const at = (index: number) => ({ column: index % columns, row: Math.floor(index / columns) })
      if (first) stroke.current = { id: stroke.current.id + 1, last: cell }
      const grid = paintLine(document.grid, at(stroke.current.last), at(cell), useBrush.getState().brush())
      stroke.current.last = cell
      if (grid !== document.grid) edit({ ...document, grid }, stroke.current.id)
    },
    [study],
  )
}
