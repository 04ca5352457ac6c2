'use client'

import { useRef, useState, type PointerEvent } from 'react'

type Point = readonly [x: number, y: number]

/** Draws over everything until the next view; nothing of it is kept. */
export function Pen() {
  const [lines, setLines] = useState<readonly (readonly Point[])[]>([])
  const drawing = useRef(false)
  const at = ({ clientX, clientY }: PointerEvent): Point => [clientX, clientY]
  const end = () => {
    drawing.current = false
  }
  return (
    <svg
      role="img"
      aria-label={`Drawn by hand: ${lines.length} line${lines.length === 1 ? '' : 's'}`}
      className="fixed inset-0 z-40 h-full w-full cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        drawing.current = true
        setLines([...lines, [at(event)]])
      }}
      onPointerMove={(event) => {
        if (!drawing.current) return
        const point = at(event)
        setLines((before) => before.map((line, i) => (i === before.length - 1 ? [...line, point] : line)))
      }}
      onPointerUp={end}
      onPointerCancel={end}
    >
      {lines.map((line, i) => (
        <polyline
          key={i}
          points={line.map(([x, y]) => `${x},${y}`).join(' ')}
          fill="none"
          className="stroke-alert"
          strokeWidth="0.35vw"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
    </svg>
  )
}
