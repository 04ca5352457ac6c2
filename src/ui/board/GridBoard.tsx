'use client'

import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { useTheme } from '../theme/theme'
import { ARROWS, drawOnCanvas, useRoom } from './board-canvas'
import { drawGrid, type GridPicture } from './grid-picture'

interface Props {
  readonly picture: GridPicture
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
const LARGEST = 92
const MARGIN = 6

/** A grid on a canvas, sized to the room there is. Arrow keys walk it; space or Enter paints. */
export function GridBoard({ picture, label, onHover, onSelect, onPaint }: Props) {
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const stroke = useRef<number | null>(null)
  const room = useRoom(frame)
  const theme = useTheme((state) => state.theme)
  const columns = picture.grid.floor[0].length
  const rows = picture.grid.floor.length
  const side = Math.max(
    1,
    Math.min(
      LARGEST,
      Math.floor((room.width - 2 * MARGIN) / columns),
      Math.floor((room.height - 2 * MARGIN) / rows),
    ),
  )

  useEffect(() => {
    const draw = () => {
      const element = canvas.current
      if (!element || room.width === 0) return
      drawOnCanvas(element, columns * side + 2 * MARGIN, rows * side + 2 * MARGIN, (pen, context) => {
        context.translate(MARGIN, MARGIN)
        drawGrid(pen, picture, side)
      })
    }
    const request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [picture, side, columns, rows, room, theme])

  const cellAt = (event: PointerEvent): number | null => {
    const box = event.currentTarget.getBoundingClientRect()
    // Measured on the page, where a zoomed canvas has another size than it was drawn with.
    const scale = box.width / (columns * side + 2 * MARGIN)
    const column = Math.floor(((event.clientX - box.left) / scale - MARGIN) / side)
    const row = Math.floor(((event.clientY - box.top) / scale - MARGIN) / side)
    return column >= 0 && row >= 0 && column < columns && row < rows ? row * columns + column : null
  }

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
    <div ref={frame} className="flex h-full min-h-0 w-full items-center justify-center overflow-hidden">
      <canvas
        ref={canvas}
        data-side={side}
        data-margin={MARGIN}
        tabIndex={0}
        role="application"
        aria-roledescription="board"
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
