import type { ReactNode } from 'react'
import { pictureScale, ringScale, visitsOfStates } from '../board/scales'
import { Legend, VisitLegend } from '../board/Legend'
import { useModel, useStudy } from './study-context'
import type { ShownOverlay } from '../board/overlay'

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

/** The legends of what is laid over a board in colours. */
export function OverlayLegends({
  shown,
  addition = '',
  narrow = false,
}: {
  shown: ShownOverlay
  /** Said after the name of the values: what a cell with several states stands for. */
  addition?: string
  narrow?: boolean
}) {
  const { overlay, titles } = shown
  const layers = useStudy((state) => state.layers)
  const stage = useStudy((state) => state.stage)
  const model = useModel((state) => state.compiled?.model)
  const scale = pictureScale({ overlay, layers })
  const preferenceScale = overlay?.preferences ? ringScale({ overlay, layers }) : undefined
  const visits =
    model && stage === 'learn' && layers.has('visits') && !layers.has('values') && overlay?.rowVisits
      ? visitsOfStates(model, overlay.rowVisits).reduce((x, y) => Math.max(x, y), 0)
      : undefined
  return (
    <>
      {scale && (
        <Legend
          scale={scale}
          title={`${layers.has('values') ? titles.values : titles.rows}${addition}`}
          narrow={preferenceScale !== undefined || narrow}
        />
      )}
      {preferenceScale && <Legend scale={preferenceScale} title="preference" narrow={scale !== undefined} />}
      {visits !== undefined && <VisitLegend most={visits} />}
    </>
  )
}
