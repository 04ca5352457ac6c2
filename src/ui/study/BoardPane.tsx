'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { formatNumber } from '../../core/formats/number'
import { backupForm } from '../../core/plan/backup'
import { planPicture } from '../../core/plan/working'
import { LEARN_METHODS } from '../../core/learn/methods'
import {
  describeCell,
  LAYERS,
  pictureScale,
  ringScale,
  visitsOfStates,
  type GridPicture,
  type Layer,
  type Overlay,
} from '../board/grid-picture'
import { GridBoard } from '../board/GridBoard'
import { Legend, VisitLegend } from '../board/Legend'
import { StateTable } from '../board/StateTable'
import { ProblemList } from '../parts/ProblemList'
import { usePaint } from '../stages/build/use-paint'
import { compiledOf } from './compiled'
import { cursorOf, stateAt } from './selection'
import { useParts, useStudy } from './study-context'

/** The middle of the study: the board or its table, what lies over it, and what is under the pointer. */
export function BoardPane() {
  const document = useStudy((state) => state.document)
  const stage = useStudy((state) => state.stage)
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const layers = useStudy((state) => state.layers)
  const view = useStudy((state) => state.view)
  const select = useStudy((state) => state.select)
  const result = compiledOf(document)
  const { overlay, agent, titles } = useOverlay()
  const [hover, setHover] = useState<number | null>(null)
  const paint = usePaint()

  const grid = document.kind === 'grid' ? document.grid : null
  const picture = useMemo<GridPicture | null>(() => {
    if (!grid) return null
    const layout = result.ok ? result.compiled.layout : null
    return {
      grid,
      compiled: result.ok && layout ? { model: result.compiled.model, layout } : undefined,
      overlay,
      layers,
      selected: cursor ?? undefined,
      agent: agent !== null && layout ? layout.cellOfState[agent] : undefined,
      ahead: pointed !== null && layout ? [layout.cellOfState[pointed]] : undefined,
    }
  }, [grid, result, overlay, layers, cursor, agent, pointed])

  const asTable = !picture || view === 'table'
  const scale = picture && !asTable ? pictureScale(picture) : undefined
  const preferenceScale = picture && !asTable && overlay?.preferences ? ringScale(picture) : undefined
  const visits =
    result.ok && !asTable && stage === 'learn' && layers.has('visits') && overlay?.rowVisits
      ? visitsOfStates(result.compiled.model, overlay.rowVisits).reduce((x, y) => Math.max(x, y), 0)
      : undefined
  const readCell = hover ?? cursor
  return (
    <section className="flex min-h-0 min-w-0 flex-col gap-2 px-4 py-3" aria-label="Board">
      {picture && (
        <div className="flex h-8 shrink-0 items-center gap-4">
          {!asTable && <LayerChoice rowTitle={titles.rows} />}
          <ViewChoice />
        </div>
      )}
      <div className="relative min-h-0 flex-1">
        {asTable ? (
          result.ok ? (
            <StateTable
              model={result.compiled.model}
              overlay={overlay}
              rowTitle={titles.rows}
              selected={stateAt(document, cursor)}
              pointed={pointed}
              onSelect={(state) => select(cursorOf(document, state))}
            />
          ) : (
            <ProblemList problems={result.problems} />
          )
        ) : (
          <GridBoard
            picture={picture}
            label={`${document.name}: a grid of ${picture.grid.floor[0].length} by ${picture.grid.floor.length} cells. ${cursor === null ? 'Use the arrow keys to walk it.' : describeCell(picture, cursor, formatNumber)}`}
            onHover={setHover}
            onSelect={select}
            onPaint={stage === 'build' ? paint : undefined}
          />
        )}
      </div>
      <div className="flex h-6 shrink-0 items-center justify-between gap-4 overflow-hidden text-[14px]">
        <output className="truncate" aria-live="polite" data-testid="readout">
          {!result.ok && grid && !asTable ? (
            <span className="text-alert">
              {result.problems[0].cause} {result.problems[0].remedy}
            </span>
          ) : picture &&
            readCell !== null &&
            readCell < picture.grid.floor.length * picture.grid.floor[0].length ? (
            describeCell(picture, readCell, (value) => formatNumber(value, 3))
          ) : picture && !asTable ? (
            <span className="text-ink-soft">Point at a cell to read it, click it to select it.</span>
          ) : null}
        </output>
        {scale && (
          <Legend
            scale={scale}
            title={layers.has('values') ? titles.values : titles.rows}
            narrow={preferenceScale !== undefined}
          />
        )}
        {preferenceScale && (
          <Legend scale={preferenceScale} title="preference" narrow={scale !== undefined} />
        )}
        {visits !== undefined && !layers.has('values') && <VisitLegend most={visits} />}
        {!scale && asTable && overlay?.values && (
          <span className="text-[13px] text-ink-soft">
            {titles.values === 'value' ? '' : `Value: ${titles.values}; `}▸ marks what the policy picks.
          </span>
        )}
      </div>
    </section>
  )
}

const NO_TITLES = { values: 'value', rows: 'action values' }

/** What the stage lays over the board. */
function useOverlay(): {
  overlay: Overlay | undefined
  agent: number | null
  titles: { values: string; rows: string }
} {
  const { plan, learn } = useParts()
  const stage = useStudy((state) => state.stage)
  const document = useStudy((state) => state.document)
  const planFrame = useStore(plan.store, (state) => state.frame)
  const discount = useStore(plan.store, (state) => state.discount)
  const learnFrame = useStore(learn.store, (state) => state.frame)
  const method = useStore(learn.store, (state) => state.running?.method)
  const result = compiledOf(document)
  return useMemo(() => {
    const nothing = { overlay: undefined, agent: null, titles: NO_TITLES }
    if (!result.ok) return nothing
    const { model } = result.compiled
    if (stage === 'plan' && planFrame && planFrame.values.length === model.states) {
      // Before the first sweep every action looks the same: there is no policy to show yet.
      if (planFrame.sweep === 0) return { ...nothing, overlay: { values: planFrame.values } }
      const { rowValues, policy } = planPicture(backupForm(model, discount), planFrame.values)
      return { overlay: { values: planFrame.values, rowValues, policy }, agent: null, titles: NO_TITLES }
    }
    if (stage === 'learn' && learnFrame && method && learnFrame.values.length === model.states) {
      const { values, rowValues, policy, rowVisits } = learnFrame
      const preferences = LEARN_METHODS[method].tableHolds === 'preferences'
      return {
        overlay: { values, rowValues, policy, rowVisits, preferences },
        agent: learnFrame.state >= 0 ? learnFrame.state : learnFrame.steps > 0 ? learnFrame.last.next : null,
        titles: preferences
          ? { values: 'exact value of the policy', rows: 'preferences' }
          : { values: 'largest action value', rows: 'action values' },
      }
    }
    return nothing
  }, [result, stage, planFrame, discount, learnFrame, method])
}

function LayerChoice({ rowTitle }: { rowTitle: string }) {
  const stage = useStudy((state) => state.stage)
  const layers = useStudy((state) => state.layers)
  const toggle = useStudy((state) => state.toggleLayer)
  if (stage === 'build')
    return <span className="text-[13px] text-ink-soft">Draw on the board with the tool at the right.</span>
  const offered = (Object.keys(LAYERS) as Layer[]).filter((layer) => layer !== 'visits' || stage === 'learn')
  return (
    <fieldset className="flex gap-4">
      <legend className="sr-only">Layers</legend>
      {offered.map((layer) => (
        <label key={layer} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4"
            checked={layers.has(layer)}
            onChange={() => toggle(layer)}
          />
          {layer === 'actionValues' && rowTitle === 'preferences' ? 'Preferences' : LAYERS[layer]}
        </label>
      ))}
    </fieldset>
  )
}

function ViewChoice() {
  const view = useStudy((state) => state.view)
  const setView = useStudy((state) => state.setView)
  return (
    <div className="ml-auto flex" role="group" aria-label="View">
      {(['board', 'table'] as const).map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={view === each}
          className={`border border-rule-strong px-2.5 py-0.5 first:rounded-l-sm first:border-r-0 last:rounded-r-sm ${view === each ? 'bg-ink text-paper' : 'bg-sheet'}`}
          onClick={() => setView(each)}
        >
          {each === 'board' ? 'Board' : 'Table'}
        </button>
      ))}
    </div>
  )
}
