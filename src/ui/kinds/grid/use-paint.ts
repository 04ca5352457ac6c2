import { useCallback, useRef } from 'react'
import { cellName } from '../../../core/kinds/grid/cells'
import type { Grid } from '../../../core/kinds/grid/document'
import {
  lineCells,
  paintCell,
  paintCells,
  patchCells,
  regionCells,
  regionOf,
  type Spot,
} from '../../../core/kinds/grid/edit'
import { newStroke } from '../../../session/study/stroke'
import { useParts } from '../../study/study-context'
import { useBrush } from './brush'

interface Stroke {
  readonly id: number
  readonly from: Spot
  last: Spot
  /** The grid before the stroke, which lines and boxes are drawn on anew as they grow. */
  readonly before: Grid
}

/** Painting with the tool in hand; one stroke is one step of undo. */
export function usePaint(): (cell: number, first: boolean) => void {
  const { study } = useParts()
  const stroke = useRef<Stroke | null>(null)
  return useCallback(
    (cell, first) => {
      const { document, edit } = study.getState()
      if (document.kind !== 'grid') return
      const columns = document.grid.floor[0].length
      const spot = { column: cell % columns, row: Math.floor(cell / columns) }
      if (first || !stroke.current)
        stroke.current = {
          id: newStroke(),
          from: spot,
          last: spot,
          before: document.grid,
        }
      const grid = drawn(document.grid, stroke.current, spot, first)
      stroke.current.last = spot
      if (grid !== document.grid) edit({ ...document, grid }, stroke.current.id)
    },
    [study],
  )
}

/** The grid after a stroke has come to a cell. */
function drawn(grid: Grid, { from, last, before }: Stroke, to: Spot, first: boolean): Grid {
  const { tool, shape, brush, set } = useBrush.getState()
  if (shape === 'mark') {
    set({ region: regionOf(from, to) })
    return grid
  }
  // A jump is drawn from its opening to where it leads; so is a send-back, or it leads to a start.
  if (tool === 'jump' || tool === 'sendBack') {
    const moved = to.column !== from.column || to.row !== from.row
    const leads = brush(moved ? cellName(to.column, to.row) : null)
    return leads ? paintCell(before, from.column, from.row, leads) : before
  }
  const with_ = brush(null)
  if (!with_) return grid
  switch (shape) {
    case 'freehand':
      return paintCells(grid, lineCells(last, to), with_)
    case 'line':
      return paintCells(before, lineCells(from, to), with_)
    case 'rectangle':
      return paintCells(before, regionCells(regionOf(from, to)), with_)
    case 'fill':
      return first ? paintCells(grid, patchCells(grid, to), with_) : grid
  }
}
