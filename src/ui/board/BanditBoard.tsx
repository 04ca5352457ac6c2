'use client'

import { useEffect, useRef, type KeyboardEvent } from 'react'
import { useTheme } from '../theme/theme'
import { ARROWS, drawOnCanvas, useRoom } from './board-canvas'
import { banditHeight, drawBandit, frameBandit, type BanditPicture } from './bandit-picture'

interface Props {
  readonly picture: BanditPicture
  /** What the picture shows, for those who cannot see it. */
  readonly label: string
  /** The arm under the pointer, null when it leaves. */
  onHover(arm: number | null): void
  /** The board was clicked. */
  onPick(): void
  /** An arrow key walks on: up and down the arms, left and right the pulls. */
  onWalk(columns: number, rows: number): void
}

/** Arms as distributions, one below the other, on a common scale of rewards. */
export function BanditBoard({ picture, label, onHover, onPick, onWalk }: Props) {
  const holder = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const room = useRoom(holder)
  const theme = useTheme((state) => state.theme)
  const frame = frameBandit(picture, room.width, room.height)

  useEffect(() => {
    const draw = () => {
      const element = canvas.current
      if (!element || room.width === 0) return
      const fitted = frameBandit(picture, room.width, room.height)
      drawOnCanvas(element, fitted.width, fitted.height, (pen) => drawBandit(pen, picture, fitted))
    }
    const request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [picture, room, theme])

  return (
    <div
      ref={holder}
      className={`h-full min-h-0 w-full overflow-x-hidden ${banditHeight(picture) > room.height ? 'overflow-y-auto' : 'overflow-y-hidden'}`}
    >
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-roledescription="board"
        aria-label={label}
        className="rounded-sm select-none"
        onKeyDown={(event: KeyboardEvent) => {
          const move = ARROWS[event.key]
          if (!move) return
          event.preventDefault()
          onWalk(move[0], move[1])
        }}
        onPointerDown={onPick}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect()
          const scale = box.height / frame.height
          const arm = Math.floor(((event.clientY - box.top) / scale - frame.top) / frame.band)
          onHover(arm >= 0 && arm < picture.arms.length ? arm : null)
        }}
        onPointerLeave={() => onHover(null)}
      />
    </div>
  )
}
