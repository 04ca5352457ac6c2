'use client'

import { useRef, useState, type PointerEvent } from 'react'
import type { Place } from '../board/board-canvas'
import { coverAt, coverOver, usePlacesOf, type Cover } from './covering'

/** Pixels a pointer may tremble before it draws a cover of its own size. */
const TREMBLE = 5

/**
 * Covers over what a class is to guess. While covering, a click covers what lies there and a drag whatever it goes over; a
 * cover is taken away by a click, at any time.
 */
export function Covers({
  covering,
  covers,
  asked,
  onCovers,
  onAsk,
}: {
  covering: boolean
  covers: readonly Cover[]
  /** The one whose answers are shown; null for none. */
  asked: Cover | null
  onCovers(covers: readonly Cover[]): void
  /** Asks a class what is under one; null where none follows. */
  onAsk: ((cover: Cover) => void) | null
}) {
  const [drawn, setDrawn] = useState<Place | null>(null)
  const from = useRef<readonly [x: number, y: number] | null>(null)
  const places = usePlacesOf(covers)
  const drop = () => {
    from.current = null
    setDrawn(null)
  }
  return (
    <>
      {covering && (
        <div
          className="fixed inset-0 z-40 cursor-cell touch-none"
          role="presentation"
          data-testid="covering"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId)
            from.current = [event.clientX, event.clientY]
          }}
          onPointerMove={({ clientX, clientY }) => {
            if (!from.current) return
            const [x, y] = from.current
            if (!drawn && Math.hypot(clientX - x, clientY - y) < TREMBLE) return
            setDrawn({
              left: Math.min(x, clientX),
              top: Math.min(y, clientY),
              width: Math.abs(clientX - x),
              height: Math.abs(clientY - y),
            })
          }}
          onPointerUp={({ clientX, clientY }: PointerEvent) => {
            if (!from.current) return
            const cover = drawn ? coverOver(drawn) : coverAt(clientX, clientY)
            if (cover) onCovers([...covers, cover])
            drop()
          }}
          onPointerCancel={drop}
        />
      )}
      {covers.map((cover, i) => {
        const place = places[i]
        return (
          place && (
            <div key={i}>
              <button
                type="button"
                aria-label="Covered: show it"
                title="Show it"
                className="lesson-cover fixed z-40 cursor-pointer"
                style={{ ...place }}
                onClick={() => onCovers(covers.filter((each) => each !== cover))}
              >
                ?
              </button>
              {onAsk && cover !== asked && (
                <button
                  type="button"
                  className="fixed z-40 rounded-sm border border-ink bg-sheet px-2 text-[15px] leading-6 font-semibold text-ink shadow"
                  style={{ left: place.left, top: place.top + place.height + 3 }}
                  title="Ask the class what is covered here"
                  onClick={() => onAsk(cover)}
                >
                  Ask
                </button>
              )}
            </div>
          )
        )
      })}
      {drawn && <div className="lesson-cover fixed z-40" style={{ ...drawn }} aria-hidden />}
    </>
  )
}

/** Covers that the instructor has put there, on a page that follows. */
export function FollowedCovers({ covers }: { covers: readonly Cover[] }) {
  const places = usePlacesOf(covers)
  return covers.map((_, i) => {
    const place = places[i]
    return (
      place && (
        <div
          key={i}
          role="img"
          aria-label="Covered by your instructor"
          className="lesson-cover fixed z-20"
          style={{ ...place }}
        >
          ?
        </div>
      )
    )
  })
}
