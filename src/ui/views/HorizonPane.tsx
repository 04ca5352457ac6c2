'use client'

import { Legends } from '../board/Legend'
import { useEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import type { Compiled } from '../../core/kinds/kinds'
import { formatCount, formatNumber } from '../../core/formats/number'
import type { RulebookView } from '../../core/kinds/rulebook/document'
import { describeStates } from '../board/describe-states'
import { dialOf, dialParts } from '../board/dial'
import { DialLegend } from '../board/DialLegend'
import { NOTHING_SHOWN } from '../board/overlay'
import { MapBoard } from '../board/MapBoard'
import { layOut, resolveView } from '../board/map-layout'
import type { MapPicture } from '../board/map-picture'
import { spaceOf, horizonBoard } from '../board/spaces'
import { BoardFrame, useLegends, PointHint } from '../study/BoardFrame'
import { MapControls } from '../board/MapControls'
import { useCovered, useParts, useStudy } from '../study/study-context'

/** A finite horizon at a glance: values and best actions over the steps to go and the variables of the states. */
export function HorizonPane({ compiled }: { compiled: Compiled | null }) {
  return compiled && <HorizonPlan compiled={compiled} />
}

function HorizonPlan({ compiled }: { compiled: Compiled }) {
  const { plan } = useParts()
  const { horizonPlan: planned, frame, horizon } = useStore(plan.store)
  const layers = useStudy((state) => state.layers)
  const covered = useCovered()
  const [wanted, setWanted] = useState<RulebookView>({ across: 'steps to go', up: null, others: {} })
  const [selected, setSelected] = useState<number | null>(null)
  const [hover, setHover] = useState<Int32Array | null>(null)
  const ready = frame !== null && !covered
  useEffect(() => {
    if (ready && !planned) plan.askHorizon()
  }, [plan, ready, planned])
  const staged = useMemo(
    () => planned && horizonBoard(compiled, spaceOf(compiled), planned),
    [compiled, planned],
  )
  const overlay = useMemo(
    () => (planned ? { values: planned.values, policy: planned.policy } : undefined),
    [planned],
  )
  const legends = useLegends({ overlay, titles: NOTHING_SHOWN.titles })
  const dial = useMemo(() => dialOf(compiled, wanted.dial), [compiled, wanted.dial])
  const picture = useMemo<MapPicture | null>(() => {
    if (!staged || !overlay || overlay.policy.length !== staged.model.rows) return null
    const layout = layOut(staged.space, staged.model.states, resolveView(staged.space, wanted))
    return { model: staged.model, dial, layout, overlay, layers, selected: selected ?? undefined }
  }, [staged, overlay, wanted, dial, layers, selected])
  if (!picture || !staged || !planned)
    return (
      <p className="mt-16 text-center text-ink-soft">
        {covered
          ? 'The truth is hidden: reveal it to see the plan.'
          : 'Planning for every number of steps to go …'}
      </p>
    )
  const format = (value: number) => formatNumber(value, 3)
  const read = hover ?? (selected !== null && selected < staged.model.states ? Int32Array.of(selected) : null)
  return (
    <BoardFrame
      controls={
        <MapControls
          space={staged.space}
          view={wanted}
          parts={dialParts(compiled)}
          onChange={(part) => setWanted({ ...wanted, ...part })}
        />
      }
      readout={read ? describeStates(staged.model, read, overlay, format) : <PointHint what="state" />}
      legends={
        <>
          {planned.count < horizon && (
            <span className="text-[13px] text-ink-soft">the last {formatCount(planned.count)} steps</span>
          )}
          {layers.has('policy') && <DialLegend actions={dial.places} most={5} shades={false} />}
          <Legends legends={legends} narrow />
        </>
      }
    >
      <MapBoard
        picture={picture}
        legends={legends}
        label={`Steps to go: values and best actions with 1 to ${planned.count} steps to go`}
        onHover={setHover}
        onSelect={setSelected}
        onSmall={() => {}}
      />
    </BoardFrame>
  )
}
