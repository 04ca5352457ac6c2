'use client'

import type { ReactNode } from 'react'
import { createPortal } from 'react-dom'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { useStudy } from '../study/study-context'
import { useSpreadPlace } from './spread-place'

/**
 * The foot of a stage: what moves it, its curve with a head to drag, and its numbers. The curve can be spread over the
 * board's place, to be read from the last row.
 */
export function Strip({
  what = 'curve',
  controls,
  chart,
  slider,
  readout,
}: {
  /** What it shows, for the button that spreads it. */
  what?: 'curve' | 'table'
  controls: ReactNode
  /** @param large  whether it is spread */
  chart(large: boolean): ReactNode
  /** Under the curve, as long as its axis. */
  slider: ReactNode
  readout: ReactNode
}) {
  const spread = useStudy((state) => state.spread)
  const setSpread = useStudy((state) => state.setSpread)
  const place = useSpreadPlace()
  const words = spread ? 'Back to the board' : `Spread the ${what} over the board`
  const button = (
    <Button
      look="quiet"
      className="!p-0.5"
      aria-label={words}
      aria-pressed={spread}
      title={`${words} (C)`}
      onClick={() => setSpread(!spread)}
    >
      <Icon name={spread ? 'shrink' : 'spread'} className="size-4" />
    </Button>
  )
  const curve = (
    <div className="relative min-h-0 flex-1">
      {chart(spread)}
      <div className="absolute -top-1 -right-6">{button}</div>
    </div>
  )
  return (
    <footer
      className={`@container flex shrink-0 flex-wrap gap-4 border-t border-rule-strong px-4 py-2 md:flex-nowrap ${spread ? 'md:justify-between' : 'md:h-48'}`}
    >
      <div className="flex w-56 max-w-full flex-col justify-center gap-1.5">{controls}</div>
      {spread && place ? (
        createPortal(
          <div className="flex h-full min-h-0 flex-col pr-6">
            {curve}
            {slider}
          </div>,
          place,
        )
      ) : (
        <div className="order-first flex h-40 min-w-0 basis-full flex-col pr-6 md:order-none md:h-auto md:flex-1 md:basis-0">
          {curve}
          {slider}
        </div>
      )}
      <div className="w-64 md:@max-[52rem]:hidden">{readout}</div>
    </footer>
  )
}
