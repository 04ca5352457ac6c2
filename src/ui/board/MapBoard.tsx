'use client'

import { needleActions, type BoardLegend } from './legends'
import { useCallback, useEffect, type KeyboardEvent, type PointerEvent } from 'react'
import { ARROWS, BOARD_CANVAS, cellPlace, cellUnder, useBoardCanvas, type Room } from './board-canvas'
import { useBoardWords } from './board-words'
import { READABLE } from './cell-overlay'
import { drawMap, frameMap, type MapPicture } from './map-picture'
import type { Pen } from './pen'
import { statesOfCell } from './map-layout'

interface Props {
  readonly picture: MapPicture
  readonly legends: readonly BoardLegend[]
  /** What the picture shows, for those who cannot see it. */
  readonly label: string
  /** The states of the cell under the pointer, null when it leaves. */
  onHover(states: Int32Array | null): void
  onSelect(state: number): void
  /** Whether the cells are too small for needles. */
  onSmall(small: boolean): void
}

/** States as a map of two variables, on a canvas sized to the room there is. Arrow keys walk it. */
export function MapBoard({ picture, legends, label, onHover, onSelect, onSmall }: Props) {
  const fit = useCallback(
    ({ width, height }: Room) => {
      const fitted = frameMap(picture.layout, width, height)
      const { columns, rows } = picture.layout
      return {
        ...fitted,
        draw: (pen: Pen) => drawMap(pen, picture, fitted),
        placeAt: (x: number, y: number) =>
          cellPlace({ ...fitted, columns, rows }, x, y, (cell) => {
            const states = statesOfCell(picture.layout, cell)
            return states.length === 1 ? picture.model.labels[states[0]] : undefined
          }),
      }
    },
    [picture],
  )
  const { holder, canvas, room } = useBoardCanvas(fit, useBoardWords(legends, needleActions(picture)))
  const { layout } = picture
  const frame = frameMap(layout, room.width, room.height)

  const small = room.width > 0 && Math.min(frame.cellWidth, frame.cellHeight) < READABLE.needle
  useEffect(() => onSmall(small), [small, onSmall])

  const cellAt = (event: PointerEvent) =>
    cellUnder(event, { ...frame, columns: layout.columns, rows: layout.rows })
  /** The first state of a cell; when one of it is selected already, the one after it. */
  const selectIn = (cell: number) => {
    const states = statesOfCell(layout, cell)
    if (!states.length) return false
    const at = picture.selected === undefined ? -1 : states.indexOf(picture.selected)
    onSelect(states[(at + 1) % states.length])
    return true
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const move = ARROWS[event.key]
    if (!move) return
    event.preventDefault()
    const cell = picture.selected === undefined ? -1 : layout.cellOfState[picture.selected]
    if (cell < 0) {
      if (layout.cellState.length) onSelect(layout.cellState[0])
      return
    }
    // Over gaps where no state is, on to the next one.
    let column = cell % layout.columns
    let row = Math.floor(cell / layout.columns)
    for (;;) {
      column += move[0]
      row += move[1]
      if (column < 0 || row < 0 || column >= layout.columns || row >= layout.rows) return
      if (selectIn(row * layout.columns + column)) return
    }
  }

  return (
    <div ref={holder} className="flex h-full min-h-0 w-full items-center justify-center overflow-hidden">
      <canvas
        ref={canvas}
        data-left={frame.left}
        data-top={frame.top}
        data-cell-width={frame.cellWidth}
        data-cell-height={frame.cellHeight}
        {...BOARD_CANVAS}
        aria-label={label}
        className="touch-none rounded-sm select-none"
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          const cell = cellAt(event)
          if (cell !== null && event.button === 0) selectIn(cell)
        }}
        onPointerMove={(event) => {
          const cell = cellAt(event)
          onHover(cell === null ? null : statesOfCell(layout, cell))
        }}
        onPointerLeave={() => onHover(null)}
      />
    </div>
  )
}
