'use client'

import { useCallback, type KeyboardEvent } from 'react'
import { ARROWS, BOARD_CANVAS, useBoardCanvas, type Room } from '../../board/board-canvas'
import { useBoardWords } from '../../board/board-words'
import type { Pen } from '../../board/pen'
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
  const fit = useCallback(
    ({ width, height }: Room) => {
      const fitted = frameBandit(picture, width, height)
      const { left, top, band } = fitted
      return {
        ...fitted,
        draw: (pen: Pen) => drawBandit(pen, picture, fitted),
        // An arm without its name.
        placeAt: (_: number, y: number) => {
          const arm = Math.floor((y - top) / band)
          return arm >= 0 && arm < picture.arms.length
            ? { left, top: top + arm * band, width: width - left, height: band }
            : null
        },
      }
    },
    [picture],
  )
  const { holder, canvas, room } = useBoardCanvas(fit, useBoardWords())
  const frame = frameBandit(picture, room.width, room.height)

  return (
    <div
      ref={holder}
      className={`h-full min-h-0 w-full overflow-x-hidden ${banditHeight(picture) > room.height ? 'overflow-y-auto' : 'overflow-y-hidden'}`}
    >
      <canvas
        ref={canvas}
        {...BOARD_CANVAS}
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
