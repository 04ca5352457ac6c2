'use client'

import { useMemo, useState } from 'react'
import type { Compiled } from '../../core/kinds/kinds'
import type { RulebookView } from '../../core/kinds/rulebook/document'
import { layOut, resolveView } from '../board/map-layout'
import { spaceOf } from '../board/spaces'
import { curveChart, curveLines } from '../charts/curve-chart'
import { EChart } from '../charts/EChart'
import { MapControls } from '../board/MapControls'
import { useOverlay } from '../study/use-overlay'

/** Values as curves over one variable, a line for each value of another. */
export function CurvePane({ compiled }: { compiled: Compiled | null }) {
  return compiled && <Curves compiled={compiled} />
}

function Curves({ compiled }: { compiled: Compiled }) {
  const shown = useOverlay()
  const [wanted, setWanted] = useState<RulebookView>({ across: null, up: null, others: {} })
  const space = spaceOf(compiled)
  const { model } = compiled
  const values = shown.overlay?.values
  const layout = useMemo(
    () => layOut(space, model.states, resolveView(space, wanted)),
    [space, model.states, wanted],
  )
  const axis = space.axes[layout.view.across]
  const title = shown.titles.values
  const build = useMemo(
    () => (values ? curveChart(curveLines(model, layout, values), axis, title) : null),
    [model, layout, values, axis, title],
  )
  return (
    <>
      <MapControls space={space} view={wanted} lines onChange={(part) => setWanted({ ...wanted, ...part })} />
      <div className="min-h-0 flex-1">
        {build ? (
          <EChart build={build} label={`${title} over ${axis.name}`} />
        ) : (
          <p className="mt-16 text-center text-ink-soft">There are no values to draw yet.</p>
        )}
      </div>
    </>
  )
}
