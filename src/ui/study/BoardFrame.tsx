import { useMemo, type ReactNode } from 'react'
import type { BoardLegend } from '../board/legends'
import type { ShownOverlay } from '../board/overlay'
import { legendsOf } from '../layers/layers'
import { useModel, useStudy } from './study-context'

/** A board with what belongs around it: controls of its own above, the readout and the legends below. */
export function BoardFrame({
  controls,
  readout,
  legends,
  children,
}: {
  controls?: ReactNode
  readout?: ReactNode
  legends?: ReactNode
  children: ReactNode
}) {
  return (
    <>
      {controls}
      <div className="relative min-h-0 flex-1">{children}</div>
      <div className="flex min-h-6 shrink-0 flex-wrap items-center justify-between gap-x-4 gap-y-0.5 overflow-hidden text-[14px]">
        <output className="min-w-0 truncate" aria-live="polite" data-testid="readout">
          {readout}
        </output>
        {legends}
      </div>
    </>
  )
}

export function PointHint({ what }: { what: string }) {
  return <span className="text-ink-soft">Point at a {what} to read it, click it to select it.</span>
}

/** What the colours over a board stand for. */
export function useLegends({
  overlay,
  titles,
}: Pick<ShownOverlay, 'overlay' | 'titles'>): readonly BoardLegend[] {
  const layers = useStudy((state) => state.layers)
  const model = useModel((state) => state.compiled?.model)
  return useMemo(
    () => (model ? legendsOf({ overlay, titles, layers, model }) : []),
    [overlay, titles, layers, model],
  )
}
