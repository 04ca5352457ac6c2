'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber } from '../../core/formats/number'
import { greedyPolicy } from '../../core/plan/backup'
import { LEARN_METHODS } from '../../core/learn/methods'
import {
  describeCell,
  pictureScale,
  ringScale,
  visitsOfStates,
  type GridPicture,
} from '../board/grid-picture'
import { LAYERS, type Layer, type Overlay } from '../board/overlay'
import { describeStates } from '../board/describe-states'
import { DialLegend } from '../board/DialLegend'
import { GridBoard } from '../board/GridBoard'
import { Legend, VisitLegend } from '../board/Legend'
import { MapBoard } from '../board/MapBoard'
import { distinctCells, layOut, resolveView } from '../board/map-layout'
import type { MapPicture } from '../board/map-picture'
import { StateTable } from '../board/StateTable'
import { ProblemList } from '../parts/ProblemList'
import { usePaint } from '../stages/build/use-paint'
import { cursorOf, stateAt } from './selection'
import { MapControls } from './MapControls'
import { useModel, useParts, useStudy } from './study-context'

/** The middle of the study: the board or its table, what lies over it, and what is under the pointer. */
export function BoardPane() {
  const document = useStudy((state) => state.document)
  const stage = useStudy((state) => state.stage)
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const layers = useStudy((state) => state.layers)
  const view = useStudy((state) => state.view)
  const select = useStudy((state) => state.select)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const { overlay, agent, titles } = useOverlay()
  const [hover, setHover] = useState<number | Int32Array | null>(null)
  /** The cells of a map are too small for needles. */
  const [small, setSmall] = useState(false)
  const paint = usePaint()

  const grid = document.kind === 'grid' ? document.grid : null
  const picture = useMemo<GridPicture | null>(() => {
    if (!grid) return null
    const layout = compiled?.layout ?? null
    return {
      grid,
      compiled: compiled && layout ? { model: compiled.model, layout } : undefined,
      overlay,
      layers,
      selected: cursor ?? undefined,
      agent: agent !== null && layout ? layout.cellOfState[agent] : undefined,
      ahead: pointed !== null && layout ? [layout.cellOfState[pointed]] : undefined,
    }
  }, [grid, compiled, overlay, layers, cursor, agent, pointed])

  const space = document.kind === 'rulebook' ? (compiled?.space ?? null) : null
  const asked = document.kind === 'rulebook' ? document.rulebook.view : null
  const mapLayout = useMemo(
    () =>
      space && asked && compiled ? layOut(space, compiled.model.states, resolveView(space, asked)) : null,
    [space, asked, compiled],
  )
  const map = useMemo<MapPicture | null>(
    () =>
      mapLayout &&
      compiled && {
        model: compiled.model,
        layout: mapLayout,
        overlay,
        layers,
        selected: stateAt(compiled, cursor) ?? undefined,
        agent: agent ?? undefined,
        ahead: pointed === null ? undefined : [pointed],
      },
    [mapLayout, compiled, overlay, layers, cursor, agent, pointed],
  )

  const onBoard = (picture !== null || map !== null) && view === 'board'
  const scale = onBoard ? pictureScale({ overlay, layers }) : undefined
  const preferenceScale = onBoard && overlay?.preferences ? ringScale({ overlay, layers }) : undefined
  const visits =
    compiled && onBoard && stage === 'learn' && layers.has('visits') && overlay?.rowVisits
      ? visitsOfStates(compiled.model, overlay.rowVisits).reduce((x, y) => Math.max(x, y), 0)
      : undefined
  const readCell = typeof hover === 'number' ? hover : cursor
  const format = (value: number) => formatNumber(value, 3)
  const readStates =
    hover instanceof Int32Array ? hover : cursor !== null && compiled ? Int32Array.of(cursor) : null
  const summedUp = mapLayout !== null && mapLayout.cellState.length > distinctCells(mapLayout)
  return (
    <section className="flex min-h-0 min-w-0 flex-col gap-2 px-4 py-3" aria-label="Board">
      {(picture || map) && (
        <div className="flex min-h-8 shrink-0 flex-wrap items-center gap-x-4 gap-y-1">
          {onBoard && <LayerChoice rowTitle={titles.rows} />}
          <ViewChoice />
        </div>
      )}
      {onBoard && space && document.kind === 'rulebook' && <MapControls document={document} space={space} />}
      <div className="relative min-h-0 flex-1">
        {!onBoard && compiled ? (
          <StateTable
            model={compiled.model}
            overlay={overlay}
            rowTitle={titles.rows}
            selected={stateAt(compiled, cursor)}
            pointed={pointed}
            onSelect={(state) => select(cursorOf(compiled, state))}
          />
        ) : picture ? (
          <GridBoard
            picture={picture}
            label={`${document.name}: a grid of ${picture.grid.floor[0].length} by ${picture.grid.floor.length} cells. ${cursor === null ? 'Use the arrow keys to walk it.' : describeCell(picture, cursor, formatNumber)}`}
            onHover={setHover}
            onSelect={select}
            onPaint={stage === 'build' ? paint : undefined}
          />
        ) : map ? (
          <MapBoard
            picture={map}
            label={`${document.name}: a map of ${formatCount(map.model.states)} states. ${cursor === null ? 'Use the arrow keys to walk it.' : describeStates(map.model, Int32Array.of(cursor), overlay, format)}`}
            onHover={setHover}
            onSelect={select}
            onSmall={setSmall}
          />
        ) : problems.length > 0 ? (
          document.kind === 'rulebook' && stage === 'build' ? (
            <p className="mt-16 text-center text-ink-soft">
              The board comes as soon as the rulebook is right.
            </p>
          ) : (
            <ProblemList problems={problems} />
          )
        ) : (
          <p className="mt-16 text-center text-ink-soft">Counting the states …</p>
        )}
      </div>
      <div className="flex min-h-6 shrink-0 flex-wrap items-center justify-between gap-x-4 gap-y-0.5 overflow-hidden text-[14px]">
        <output className="min-w-0 truncate" aria-live="polite" data-testid="readout">
          {grid && !compiled && onBoard && problems.length > 0 ? (
            <span className="text-alert">
              {problems[0].cause} {problems[0].remedy}
            </span>
          ) : onBoard && map && readStates ? (
            describeStates(map.model, readStates, overlay, format)
          ) : onBoard &&
            picture &&
            readCell !== null &&
            readCell < picture.grid.floor.length * picture.grid.floor[0].length ? (
            describeCell(picture, readCell, format)
          ) : onBoard ? (
            <span className="text-ink-soft">
              Point at a {picture ? 'cell' : 'state'} to read it, click it to select it.
            </span>
          ) : null}
        </output>
        {onBoard && map && overlay?.policy && layers.has('policy') && !(small && scale) && (
          <DialLegend actions={map.model.actions} most={scale ? 5 : 7} shades={small} />
        )}
        {scale && (
          <Legend
            scale={scale}
            title={`${layers.has('values') ? titles.values : titles.rows}${summedUp ? ', mean of a cell’s states' : ''}`}
            narrow={preferenceScale !== undefined || map !== null}
          />
        )}
        {preferenceScale && (
          <Legend scale={preferenceScale} title="preference" narrow={scale !== undefined} />
        )}
        {visits !== undefined && !layers.has('values') && <VisitLegend most={visits} />}
        {!onBoard && overlay?.values && (
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
  const planFrame = useStore(plan.store, (state) => state.frame)
  const learnFrame = useStore(learn.store, (state) => state.frame)
  const method = useStore(learn.store, (state) => state.running?.method)
  const compiled = useModel((state) => state.compiled)
  return useMemo(() => {
    const nothing = { overlay: undefined, agent: null, titles: NO_TITLES }
    if (!compiled) return nothing
    const { model } = compiled
    if (stage === 'plan' && planFrame && planFrame.values.length === model.states) {
      // Before the first sweep every action looks the same: there is no policy to show yet.
      if (planFrame.sweep === 0) return { ...nothing, overlay: { values: planFrame.values } }
      const { values, rowValues } = planFrame
      if (rowValues.length !== model.rows) return nothing
      const policy = greedyPolicy(model.rowStart, rowValues)
      return { overlay: { values, rowValues, policy }, agent: null, titles: NO_TITLES }
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
  }, [compiled, stage, planFrame, learnFrame, method])
}

function LayerChoice({ rowTitle }: { rowTitle: string }) {
  const stage = useStudy((state) => state.stage)
  const layers = useStudy((state) => state.layers)
  const toggle = useStudy((state) => state.toggleLayer)
  const isGrid = useStudy((state) => state.document.kind === 'grid')
  if (stage === 'build')
    return !isGrid ? null : (
      <span className="text-[13px] text-ink-soft">Draw on the board with the tool at the right.</span>
    )
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
