'use client'

import { cellName } from '../../../core/kinds/grid/cells'
import type { BoardLegend } from '../../board/legends'
import { useCallback, useRef, type KeyboardEvent, type PointerEvent } from 'react'
import {
  ARROWS,
  BOARD_CANVAS,
  cellPlace,
  cellUnder,
  useBoardCanvas,
  type CellFrame,
  type Room,
} from '../../board/board-canvas'
import { useBoardWords } from '../../board/board-words'
import { READABLE } from '../../board/cell-overlay'
import type { Pen } from '../../board/pen'
import { drawGrid, type GridPicture } from './grid-picture'
import { ShiftedPen } from '../../board/shifted-pen'

interface Props {
  readonly picture: GridPicture
  readonly legends: readonly BoardLegend[]
  /** What the picture shows, for those who cannot see it. */
  readonly label: string
  /** The cell under the pointer, null when it leaves. */
  onHover(cell: number | null): void
  /** A cell was chosen by click or arrow key. */
  onSelect(cell: number): void
  /** A stroke went over a cell; `first` when it began there. Left out where nothing can be painted. */
  onPaint?(cell: number, first: boolean): void
}

/** The largest side of a cell, in pixels. */
const LARGEST = 120
const MARGIN = 6

function sizeOf({ grid }: GridPicture) {
  return { columns: grid.floor[0].length, rows: grid.floor.length }
}

/** The side of a cell, in pixels, that fits a room. */
function sideIn(picture: GridPicture, width: number, height: number): number {
  const { columns, rows } = sizeOf(picture)
  const exact = Math.min((width - 2 * MARGIN) / columns, (height - 2 * MARGIN) / rows)
  // Whole pixels keep the lines sharp; where there are no lines the whole board is to be seen.
  return exact < READABLE.cell ? Math.max(0.2, exact) : Math.min(LARGEST, Math.floor(exact))
}

function frameOf(picture: GridPicture, side: number): CellFrame {
  const { columns, rows } = sizeOf(picture)
  return {
    width: columns * side + 2 * MARGIN,
    left: MARGIN,
    top: MARGIN,
    cellWidth: side,
    cellHeight: side,
    columns,
    rows,
  }
}

/** A grid on a canvas, sized to the room there is. Arrow keys walk it; space or Enter paints. */
export function GridBoard({ picture, legends, label, onHover, onSelect, onPaint }: Props) {
  const stroke = useRef<number | null>(null)
  const fit = useCallback(
    ({ width, height }: Room) => {
      const side = sideIn(picture, width, height)
      const frame = frameOf(picture, side)
      return {
        width: frame.width,
        height: frame.rows * side + 2 * MARGIN,
        draw: (pen: Pen) => drawGrid(new ShiftedPen(pen, MARGIN, MARGIN), picture, side),
        placeAt: (x: number, y: number) =>
          cellPlace(frame, x, y, (cell) => cellName(cell % frame.columns, Math.floor(cell / frame.columns))),
      }
    },
    [picture],
  )
  const { holder, canvas, room } = useBoardCanvas(fit, useBoardWords(legends))
  const { columns, rows } = sizeOf(picture)
  const side = sideIn(picture, room.width, room.height)

  const cellAt = (event: PointerEvent) => cellUnder(event, frameOf(picture, side))

  const onKeyDown = (event: KeyboardEvent) => {
    const cursor = picture.selected
    const move = ARROWS[event.key]
    if (move) {
      event.preventDefault()
      if (cursor === undefined) return onSelect(0)
      const column = Math.max(0, Math.min(columns - 1, (cursor % columns) + move[0]))
      const row = Math.max(0, Math.min(rows - 1, Math.floor(cursor / columns) + move[1]))
      const cell = row * columns + column
      onSelect(cell)
      if (event.shiftKey && onPaint) onPaint(cell, false)
    } else if ((event.key === ' ' || event.key === 'Enter') && onPaint && cursor !== undefined) {
      event.preventDefault()
      onPaint(cursor, true)
    }
  }

  return (
    <div ref={holder} className="flex h-full min-h-0 w-full items-center justify-center overflow-hidden">
      <canvas
        ref={canvas}
        data-side={side}
        data-margin={MARGIN}
        {...BOARD_CANVAS}
        aria-label={label}
        className="touch-none rounded-sm select-none"
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          const cell = cellAt(event)
          if (cell === null || event.button !== 0) return
          onSelect(cell)
          if (!onPaint) return
          event.currentTarget.setPointerCapture(event.pointerId)
          stroke.current = cell
          onPaint(cell, true)
        }}
        onPointerMove={(event) => {
          const cell = cellAt(event)
          onHover(cell)
          if (stroke.current === null || cell === null || cell === stroke.current) return
          stroke.current = cell
          onPaint?.(cell, false)
        }}
        onPointerUp={() => (stroke.current = null)}
        onPointerCancel={() => (stroke.current = null)}
        onPointerLeave={() => onHover(null)}
      />
    </div>
  )
}
