'use client'

import { Legends } from '../../board/Legend'
import { useMemo, useState } from 'react'
import type { CompiledRules } from '../../../core/kinds/rulebook/kind'
import type { PaneProps } from '../kind'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { describeStates } from '../../board/describe-states'
import { dialOf, dialParts } from '../../board/dial'
import { DialLegend } from '../../board/DialLegend'
import { spaceOf } from '../../board/spaces'
import { MapBoard } from '../../board/MapBoard'
import { distinctCells, layOut, resolveView } from '../../board/map-layout'
import type { MapPicture } from '../../board/map-picture'
import { BoardFrame, useLegends, PointHint } from '../../study/BoardFrame'
import { MapControls } from '../../board/MapControls'
import { stateAt } from '../../../session/study/cursor'
import { useStudy } from '../../study/study-context'

/** Edits of the view are one step of undo together. */
const VIEW_STROKE = -2

/** The board of a rulebook: its states over any two of their variables. */
export function MapPane({ document, compiled, shown, name }: PaneProps<'rulebook'>) {
  return compiled && <MapPaneOf document={document} compiled={compiled} shown={shown} name={name} />
}

function MapPaneOf({
  document,
  compiled,
  shown,
  name,
}: Pick<PaneProps<'rulebook'>, 'document' | 'shown' | 'name'> & { compiled: CompiledRules }) {
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const layers = useStudy((state) => state.layers)
  const select = useStudy((state) => state.select)
  const edit = useStudy((state) => state.edit)
  const [hover, setHover] = useState<Int32Array | null>(null)
  /** The cells are too small for needles. */
  const [small, setSmall] = useState(false)
  const { overlay, agent, reads } = shown
  const { model } = compiled
  const space = spaceOf(compiled)
  const { view } = document.rulebook
  const layout = useMemo(
    () => layOut(space, model.states, resolveView(space, view)),
    [space, view, model.states],
  )
  const dial = useMemo(() => dialOf(compiled, view.dial), [compiled, view.dial])
  const picture = useMemo<MapPicture>(
    () => ({
      model,
      dial,
      layout,
      overlay,
      layers,
      selected: stateAt(compiled, cursor) ?? undefined,
      agent: agent ?? undefined,
      ahead: pointed === null ? reads : [pointed],
    }),
    [model, dial, layout, compiled, overlay, layers, cursor, agent, pointed, reads],
  )
  const legends = useLegends(shown)
  const format = (value: number) => formatNumber(value, 3)
  const read = hover ?? (cursor !== null ? Int32Array.of(cursor) : null)
  const coloured = overlay !== undefined && (layers.has('values') || layers.has('actionValues'))
  return (
    <BoardFrame
      controls={
        <MapControls
          space={space}
          view={view}
          parts={dialParts(compiled)}
          onChange={(part) =>
            edit({ ...document, rulebook: { ...document.rulebook, view: { ...view, ...part } } }, VIEW_STROKE)
          }
        />
      }
      readout={read ? describeStates(model, read, overlay, format) : <PointHint what="state" />}
      legends={
        <>
          {overlay?.policy && layers.has('policy') && !(small && coloured) && (
            <DialLegend actions={dial.places} most={coloured ? 5 : 7} shades={small} />
          )}
          <Legends
            legends={legends}
            addition={layout.cellState.length > distinctCells(layout) ? ', mean of a cell’s states' : ''}
            narrow
          />
        </>
      }
    >
      <MapBoard
        picture={picture}
        legends={legends}
        label={`${name ? `${name}, ` : ''}${document.name}: a map of ${formatCount(model.states)} states. ${cursor === null ? 'Use the arrow keys to move over it.' : describeStates(model, Int32Array.of(cursor), overlay, format)}`}
        onHover={setHover}
        onSelect={select}
        onSmall={setSmall}
      />
    </BoardFrame>
  )
}
