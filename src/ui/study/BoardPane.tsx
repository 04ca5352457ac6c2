'use client'

import { Checkbox } from '../parts/Checkbox'
import { kindView } from '../kinds/kinds'
import { layerView, offeredLayers } from '../layers/layers'
import { VIEWS } from '../views/views'
import { useCovered, useModel, useStudy } from './study-context'
import { useStageOverlay } from './use-overlay'
import { useStage, useViews } from './use-stage'

/** The middle of the study: the environment in the chosen view, and what can be chosen for it. */
export function BoardPane({
  bar,
  onSpreadPlace,
}: {
  /** With what can be chosen for the board. */
  bar: boolean
  onSpreadPlace(place: HTMLElement | null): void
}) {
  const compiled = useModel((state) => state.compiled)
  const { drawsWithoutModel } = kindView(useStudy((state) => state.document.kind))
  const { stage } = useStage()
  const spread = useStudy((state) => state.spread) && stage.Strip !== null
  const { view, offered } = useViews()
  const { Pane, layered, needsModel } = VIEWS[view]
  const { Pane: Board } = VIEWS.board
  return (
    <section className="flex min-h-0 min-w-0 flex-col gap-2 px-4 py-3" aria-label="Board">
      {spread && <div ref={onSpreadPlace} className="min-h-0 flex-1" />}
      {!spread && (layered || offered.length > 1) && (compiled || drawsWithoutModel) && (
        <div className="flex min-h-8 shrink-0 flex-wrap items-center gap-x-4 gap-y-1">
          {bar && layered && <BoardBar />}
          <ViewChoice />
        </div>
      )}
      {!spread && (needsModel && !compiled ? <Board compiled={compiled} /> : <Pane compiled={compiled} />)}
    </section>
  )
}

/** What the stage has above the board, else the layers. */
function BoardBar() {
  const { stage } = useStage()
  return stage.Bar ? <stage.Bar /> : <LayerChoice />
}

function LayerChoice() {
  const layers = useStudy((state) => state.layers)
  const toggle = useStudy((state) => state.toggleLayer)
  const kind = useStudy((state) => state.document.kind)
  const covered = useCovered()
  const { view } = useViews()
  const { shown, source } = useStageOverlay()
  if (!source)
    return covered ? (
      <span className="text-[13px] text-ink-soft">The truth is hidden: reveal it to see the plan.</span>
    ) : null
  return (
    <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
      <legend className="sr-only">Layers</legend>
      {offeredLayers(kindView(kind).withoutLayers, source, view).map((layer) => {
        const { title, titleFor } = layerView(layer)
        return (
          <Checkbox key={layer} checked={layers.has(layer)} onChange={() => toggle(layer)}>
            {titleFor?.(shown) ?? title}
          </Checkbox>
        )
      })}
    </fieldset>
  )
}

function ViewChoice() {
  const { view, offered } = useViews()
  const setView = useStudy((state) => state.setView)
  if (offered.length < 2) return null
  return (
    <div className="ml-auto flex" role="group" aria-label="View">
      {offered.map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={view === each}
          className={`-ml-px border border-rule-strong px-2.5 py-0.5 first:ml-0 first:rounded-l-sm last:rounded-r-sm ${view === each ? 'bg-ink text-paper' : 'bg-sheet'}`}
          onClick={() => setView(each)}
        >
          {VIEWS[each].title}
        </button>
      ))}
    </div>
  )
}
