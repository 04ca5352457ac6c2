'use client'

import { Legends } from '../../board/Legend'
import { useMemo, useState } from 'react'
import type { CompiledTable } from '../../../core/kinds/table/kind'
import type { PaneProps } from '../kind'
import { formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import { describeStates } from '../../board/describe-states'
import { GraphBoard } from './GraphBoard'
import { isDrawable, layOutGraph, type GraphNode } from './graph-layout'
import type { GraphPicture } from './graph-picture'
import { Button } from '../../parts/Button'
import { BoardFrame, useLegends, PointHint } from '../../study/BoardFrame'
import { stateAt } from '../../../session/study/cursor'
import { useStudy } from '../../study/study-context'

/** The board of a table: states, chance nodes and what leads from one to the other. */
export function GraphPane({ document, compiled, shown, name }: PaneProps<'table'>) {
  return compiled && <GraphPaneOf document={document} compiled={compiled} shown={shown} name={name} />
}

function GraphPaneOf({
  document,
  compiled,
  shown,
  name,
}: Pick<PaneProps<'table'>, 'document' | 'shown' | 'name'> & { compiled: CompiledTable }) {
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const layers = useStudy((state) => state.layers)
  const select = useStudy((state) => state.select)
  const edit = useStudy((state) => state.edit)
  const setView = useStudy((state) => state.setView)
  const [hover, setHover] = useState<GraphNode | null>(null)
  const { model } = compiled
  const { table } = document
  const { overlay, agent, reads } = shown
  const drawable = isDrawable(model)
  const layout = useMemo(
    () => (drawable ? layOutGraph(model, table.places) : null),
    [drawable, model, table.places],
  )
  const picture = useMemo<GraphPicture | null>(
    () =>
      layout && {
        model,
        layout,
        overlay,
        layers,
        selected: stateAt(compiled, cursor) ?? undefined,
        agent: agent ?? undefined,
        ahead: pointed === null ? reads : [pointed],
      },
    [layout, model, compiled, overlay, layers, cursor, agent, pointed, reads],
  )
  const legends = useLegends(shown)
  const format = (value: number) => formatNumber(value, 3)
  const state = hover && hover.row < 0 ? hover.state : cursor
  return (
    <BoardFrame
      readout={
        hover && hover.row >= 0 && hover.row < model.rows ? (
          describeRow(model, hover.row, format)
        ) : state !== null && state < model.states ? (
          describeStates(model, Int32Array.of(state), overlay, format)
        ) : picture ? (
          <PointHint what="state" />
        ) : null
      }
      legends={
        picture && (
          <>
            <span className="shrink-0 text-[13px] text-ink-soft">
              ◇ chance, with probabilities · <span className="text-brass">rewards</span>
            </span>
            <Legends legends={legends} narrow />
          </>
        )
      }
    >
      {picture ? (
        <GraphBoard
          picture={picture}
          legends={legends}
          label={`${name ? `${name}, ` : ''}${document.name}: a graph of ${model.states} states. ${cursor === null ? 'Use the arrow keys to move over it.' : describeStates(model, Int32Array.of(Math.min(cursor, model.states - 1)), overlay, format)}`}
          onHover={setHover}
          onSelect={select}
          onPlace={(key, x, y) =>
            edit({ ...document, table: { ...table, places: { ...table.places, [key]: [x, y] } } })
          }
        />
      ) : (
        <div className="mx-auto mt-16 max-w-96 text-center">
          <p>
            {formatCount(model.states)} states with {formatCount(model.outcomes)} outcomes are too many for a
            readable graph.
          </p>
          <p className="mt-1 text-ink-soft">
            The table shows them all, sorted and searchable. A graph is drawn up to 60 states and 300
            outcomes.
          </p>
          <Button className="mt-3" onClick={() => setView('table')}>
            Show the table
          </Button>
        </div>
      )}
    </BoardFrame>
  )
}

/** What an action can lead to, in words. */
function describeRow(model: Model, row: number, format: (value: number) => string): string {
  let state = 0
  while (model.rowStart[state + 1] <= row) state++
  const outcomes: string[] = []
  for (let o = model.outcomeStart[row]; o < model.outcomeStart[row + 1]; o++)
    outcomes.push(
      `${model.labels[model.outcomeState[o]]} with ${format(model.outcomeProbability[o])}, reward ${signedNumber(model.outcomeReward[o])}${model.outcomeDiscount && model.outcomeDiscount[o] < 1 ? `, what follows times ${format(model.outcomeDiscount[o])}` : ''}`,
    )
  return `${model.labels[state]}, ${model.actions[model.rowAction[row]]}: ${outcomes.join('; ')}`
}
