'use client'

import { Legends } from '../../board/Legend'
import { useMemo, useState } from 'react'
import { LineSelect } from '../../parts/Select'
import type { PaneProps } from '../kind'
import { formatNumber } from '../../../core/formats/number'
import { cellOf, describeCell, type GridPicture } from './grid-picture'
import { GridBoard } from './GridBoard'
import { useBrush } from './brush'
import { usePaint } from './use-paint'
import { useDrawnPath } from './use-drawn-path'
import { BoardFrame, useLegends, PointHint } from '../../study/BoardFrame'
import { useModel, useStudy } from '../../study/study-context'

/** The board of a grid: cells, for each set of things that may be held. */
export function GridPane({ document, compiled, shown, edits, name }: PaneProps<'grid'>) {
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const layers = useStudy((state) => state.layers)
  const select = useStudy((state) => state.select)
  const problems = useModel((state) => state.problems)
  const region = useBrush((state) => (state.shape === 'mark' ? state.region : null))
  const [hover, setHover] = useState<number | null>(null)
  const paint = usePaint()
  const { grid } = document
  const { overlay, agent, reads, cells: named } = shown
  const cells = grid.floor.length * grid.floor[0].length
  const layout = compiled?.layout ?? null
  // The board follows the agent; else it shows what the selected state holds.
  const slice =
    agent !== null && layout
      ? layout.sliceOfState[agent]
      : Math.min(Math.floor((cursor ?? 0) / cells), (layout?.slices.length ?? 1) - 1)
  const draw = useDrawnPath(slice)
  const picture = useMemo<GridPicture>(
    () => ({
      grid,
      compiled: compiled && layout ? { model: compiled.model, layout } : undefined,
      slice,
      overlay,
      layers,
      selected: cursor === null ? undefined : cursor % cells,
      agent: agent !== null && layout ? layout.cellOfState[agent] : undefined,
      ahead: layout
        ? pointed !== null
          ? [layout.cellOfState[pointed]]
          : [
              ...reads.map((s) => layout.cellOfState[s]),
              ...named.map((each) => cellOf(each, grid.floor[0].length)),
            ]
        : undefined,
      region: edits === 'environment' && region ? region : undefined,
    }),
    [
      grid,
      compiled,
      layout,
      slice,
      overlay,
      layers,
      cursor,
      cells,
      agent,
      pointed,
      reads,
      named,
      region,
      edits,
    ],
  )
  const legends = useLegends(shown)
  const format = (value: number) => formatNumber(value, 3)
  const read = hover ?? picture.selected ?? null
  const said = read !== null && read < cells ? describeCell(picture, read, format) : null
  return (
    <BoardFrame
      controls={
        layout && layout.slices.length > 1 ? (
          <div className="flex items-center gap-2 text-[13px]">
            <span className="text-ink-soft">The agent is</span>
            <LineSelect
              label="What the agent holds"
              className="max-w-80"
              value={String(slice)}
              disabled={agent !== null}
              options={layout.slices.map(({ title }, i) => [String(i), title || 'empty-handed'])}
              onChange={(chosen) => select(Number(chosen) * cells + ((cursor ?? 0) % cells))}
            />
            <span className="text-ink-soft">one of {layout.slices.length} boards</span>
          </div>
        ) : undefined
      }
      readout={
        !compiled && problems.length > 0 ? (
          <span className="text-alert">
            {problems[0].cause} {problems[0].remedy}
          </span>
        ) : (
          (said ?? <PointHint what="cell" />)
        )
      }
      legends={<Legends legends={legends} />}
    >
      <GridBoard
        picture={picture}
        legends={legends}
        label={`${name ? `${name}, ` : ''}${document.name}: a grid of ${grid.floor[0].length} by ${grid.floor.length} cells. ${picture.selected === undefined ? 'Use the arrow keys to move over it.' : describeCell(picture, Math.min(picture.selected, cells - 1), formatNumber)}`}
        onHover={setHover}
        onSelect={(cell) => select(slice * cells + cell)}
        onPaint={edits === 'environment' ? paint : edits === 'policy' ? draw : undefined}
      />
    </BoardFrame>
  )
}
