'use client'

import { useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Seen, SeenBoard } from '../../core/exercise/seen'
import { dialAngles } from '../board/glyphs'
import { Button } from '../parts/Button'
import { BoardPicture } from './BoardPicture'
import { actionsOf, filled, type Drawn } from './drawn'

/** How far each arrow key goes. */
const KEYS: Readonly<Record<string, readonly [columns: number, rows: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** A policy is drawn on the board: choose an action, then touch the places where it is taken, or draw over them. */
export function PolicyBoard({
  seen,
  board: { columns, rows, places },
  drawn,
  picture,
  onDrawn,
}: {
  seen: Seen
  board: SeenBoard
  drawn: Drawn
  /** Where the picture of the board is. */
  picture: string
  onDrawn(drawn: Drawn): void
}) {
  const actions = actionsOf(seen)
  const angles = dialAngles(actions)
  const [brush, setBrush] = useState(actions[0])
  const [cursor, setCursor] = useState(0)
  const stateAt = new Map(places.map((place, i) => [place, i]))
  const paint = (i: number | undefined) => {
    if (i === undefined || drawn[i] === brush || !seen.states[i].actions.includes(brush)) return
    onDrawn({ ...drawn, [i]: brush })
  }
  const under = (event: PointerEvent<SVGSVGElement>): number | undefined => {
    const box = event.currentTarget.getBoundingClientRect()
    const column = Math.floor(((event.clientX - box.left) / box.width) * columns)
    const row = Math.floor(((event.clientY - box.top) / box.height) * rows)
    return stateAt.get(row * columns + column)
  }
  const press = (event: KeyboardEvent) => {
    const number = Number(event.key)
    if (number >= 1 && number <= actions.length) setBrush(actions[number - 1])
    else if (event.key === ' ' || event.key === 'Enter') paint(cursor)
    else if (event.key in KEYS) setCursor(neighbour(cursor, KEYS[event.key]))
    else return
    event.preventDefault()
  }
  /** The next place in a direction, over walls; the same one where there is none. */
  const neighbour = (from: number, [right, down]: readonly [number, number]): number => {
    let [column, row] = [places[from] % columns, Math.floor(places[from] / columns)]
    for (;;) {
      column += right
      row += down
      if (column < 0 || column >= columns || row < 0 || row >= rows) return from
      const found = stateAt.get(row * columns + column)
      if (found !== undefined) return found
    }
  }
  const chosen = drawn[cursor]
  return (
    <div className="space-y-3">
      <div role="radiogroup" aria-label="Action to draw with" className="flex flex-wrap gap-1.5">
        {actions.map((action, i) => (
          <button
            key={action}
            type="button"
            role="radio"
            aria-checked={brush === action}
            title={`Key ${i + 1}`}
            className="flex h-11 min-w-11 items-center gap-1.5 rounded-sm border border-rule-strong bg-sheet px-2.5 aria-checked:border-ink aria-checked:bg-ink aria-checked:text-paper"
            onClick={() => setBrush(action)}
          >
            <svg viewBox="-10 -10 20 20" className="size-5" aria-hidden>
              <Needle x={0} y={0} side={26} angle={angles[i]} />
            </svg>
            {action}
          </button>
        ))}
      </div>
      <div
        className="relative max-w-xl touch-none border border-ink select-none"
        style={{ aspectRatio: `${columns} / ${rows}` }}
      >
        <BoardPicture address={picture} />
        <svg
          viewBox={`0 0 ${columns} ${rows}`}
          className="absolute inset-0 size-full cursor-pointer text-ink"
          tabIndex={0}
          role="application"
          aria-label="The board: arrow keys go from place to place, numbers choose an action, Space draws it"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId)
            const i = under(event)
            if (i !== undefined) setCursor(i)
            paint(i)
          }}
          onPointerMove={(event) => {
            if (event.buttons) paint(under(event))
          }}
          onKeyDown={press}
        >
          {places.map((place, i) => {
            const [x, y] = [(place % columns) + 0.5, Math.floor(place / columns) + 0.5]
            const action = drawn[i]
            return (
              <g key={place}>
                {action === undefined ? (
                  <circle
                    cx={x}
                    cy={y}
                    r={0.07}
                    className="fill-brass-bright stroke-ink"
                    strokeWidth={0.02}
                  />
                ) : (
                  <Needle x={x} y={y} side={1} angle={angles[actions.indexOf(action)]} />
                )}
                {i === cursor && (
                  <rect
                    x={x - 0.47}
                    y={y - 0.47}
                    width={0.94}
                    height={0.94}
                    fill="none"
                    className="stroke-brass-bright"
                    strokeWidth={0.05}
                  />
                )}
              </g>
            )
          })}
        </svg>
      </div>
      <p role="status" className="text-[13px] text-ink-soft">
        {seen.states[cursor].states.join(', ')}: {chosen ?? 'no action yet'}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => onDrawn(filled(seen, drawn, brush))}>Fill the rest with {brush}</Button>
        <Button look="quiet" onClick={() => onDrawn({})}>
          Clear
        </Button>
      </div>
    </div>
  )
}

/** The needle of the boards of the house: it points to where an action goes. */
function Needle({ x, y, side, angle }: { x: number; y: number; side: number; angle: number }) {
  const length = side * 0.4
  const half = side * 0.065
  return (
    <g transform={`translate(${x} ${y}) rotate(${(angle * 180) / Math.PI})`} fill="currentColor">
      <polygon points={`${length},0 0,${half} 0,${-half}`} />
      <circle r={half} />
    </g>
  )
}
