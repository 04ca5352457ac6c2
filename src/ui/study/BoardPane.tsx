'use client'

import { useStore } from 'zustand'
import { formatCount, significantNumber } from '../../core/formats/number'
import { writePlainText } from '../../core/formats/plain-text'
import { planMethod } from '../../core/plan/plan-methods'
import type { PlanSession } from '../stages/plan/plan-session'
import { LAYERS, type Layer } from '../board/overlay'
import { StateTable } from '../board/StateTable'
import { downloadText, fileName } from '../parts/download'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { BanditPane } from './BanditPane'
import { BoardFrame } from './BoardFrame'
import { GraphPane } from './GraphPane'
import { GridPane } from './GridPane'
import { MapPane } from './MapPane'
import { cursorOf, stateAt } from './selection'
import { useModel, useParts, useStudy } from './study-context'
import { CurvePane } from './CurvePane'
import { PictureSlot } from './PictureSlot'
import { StagesPane } from './StagesPane'
import { VIEWS, type View } from './study-store'
import { useViews } from './use-views'
import { useCovered, useOverlay, type ShownOverlay } from './use-overlay'

/** The middle of the study: the board, its table or its text, and what lies over it. */
export function BoardPane() {
  const chosen = useStudy((state) => state.view)
  const compiled = useModel((state) => state.compiled)
  const isGrid = useStudy((state) => state.document.kind === 'grid')
  const shown = useOverlay()
  const offered = useViews()
  const view = offered.includes(chosen) ? chosen : 'board'
  return (
    <section className="flex min-h-0 min-w-0 flex-col gap-2 px-4 py-3" aria-label="Board">
      {(compiled || isGrid) && (
        <div className="flex min-h-8 shrink-0 flex-wrap items-center gap-x-4 gap-y-1">
          {(view === 'board' || view === 'stages') && <LayerChoice shown={shown} />}
          <ViewChoice offered={offered} />
        </div>
      )}
      {view === 'stages' && compiled ? (
        <StagesPane compiled={compiled} />
      ) : view === 'curve' && compiled ? (
        <CurvePane compiled={compiled} shown={shown} />
      ) : view === 'text' ? (
        <TextPane shown={shown} />
      ) : view === 'table' && compiled ? (
        <TablePane shown={shown} />
      ) : (
        <Boards shown={shown} />
      )}
    </section>
  )
}

/** The board, or in Plan two of them: what two methods have come to with equally many backups. */
function Boards({ shown }: { shown: ShownOverlay }) {
  const { plan, beside } = useParts()
  const stage = useStudy((state) => state.stage)
  const second = useStore(plan.store, (state) => state.beside)
  const other = useOverlay('beside')
  if (stage !== 'plan' || second === null) return <KindPane shown={shown} />
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2 gap-6">
      {[
        { session: plan, overlay: shown },
        { session: beside, overlay: other },
      ].map(({ session, overlay }, i) => (
        <div key={i} className="flex min-h-0 min-w-0 flex-col gap-1">
          <PlanCaption session={session} />
          <PictureSlot slot={i === 0 ? 'board' : 'beside'}>
            <KindPane shown={overlay} />
          </PictureSlot>
        </div>
      ))}
    </div>
  )
}

/** Which plan a board shows, and how far it is. */
function PlanCaption({ session }: { session: PlanSession }) {
  const { method, frame } = useStore(session.store)
  return (
    <p className="flex flex-wrap items-baseline justify-between gap-x-3 text-[13px]">
      <strong className="text-[15px]">{planMethod(method).title}</strong>
      <span className="text-ink-soft">
        {frame
          ? `${formatCount(frame.backups)} backups, sweep ${formatCount(frame.sweep)}; ${frame.finished ? `done, error at most ${significantNumber(frame.bound)}` : 'going on'}`
          : ''}
      </span>
    </p>
  )
}

/** The board of the environment's kind. */
function KindPane({ shown }: { shown: ShownOverlay }) {
  const document = useStudy((state) => state.document)
  const stage = useStudy((state) => state.stage)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  if (document.kind === 'grid') return <GridPane document={document} shown={shown} />
  if (document.kind === 'bandit' && compiled?.kind === 'bandit')
    return <BanditPane document={document} compiled={compiled} shown={shown} />
  if (document.kind === 'rulebook' && compiled?.kind === 'rulebook' && compiled.space)
    return <MapPane document={document} compiled={compiled} space={compiled.space} shown={shown} />
  if (document.kind === 'table' && compiled?.kind === 'table')
    return <GraphPane document={document} compiled={compiled} shown={shown} />
  if (problems.length === 0) return <p className="mt-16 text-center text-ink-soft">Working the model out …</p>
  // In Build the faults stand under the text or the sheet.
  if (stage === 'build' && document.kind !== 'bandit')
    return (
      <p className="mt-16 text-center text-ink-soft">
        The board comes as soon as the {document.kind === 'table' ? 'table' : 'rulebook'} is right.
      </p>
    )
  return <ProblemList problems={problems} />
}

function TablePane({ shown }: { shown: ShownOverlay }) {
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const select = useStudy((state) => state.select)
  const compiled = useModel((state) => state.compiled)!
  const { overlay, titles } = shown
  return (
    <BoardFrame
      legends={
        overlay?.values && (
          <span className="text-[13px] text-ink-soft">
            {titles.values === 'value' ? '' : `Value: ${titles.values}; `}▸ marks what the policy picks.
          </span>
        )
      }
    >
      <StateTable
        model={compiled.model}
        overlay={overlay}
        rowTitle={titles.rows}
        selected={stateAt(compiled, cursor)}
        pointed={pointed}
        onSelect={(state) => select(cursorOf(compiled, state))}
      />
    </BoardFrame>
  )
}

function TextPane({ shown }: { shown: ShownOverlay }) {
  const document = useStudy((state) => state.document)
  const cursor = useStudy((state) => state.cursor)
  const compiled = useModel((state) => state.compiled)
  const text = writePlainText(document, compiled, shown.overlay, cursor ?? 0)
  return (
    <BoardFrame
      controls={
        <div className="flex gap-2">
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            onClick={() => void navigator.clipboard?.writeText(text)}
          >
            Copy
          </Button>
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            onClick={() => downloadText(fileName(document.name, '.txt'), text, 'text/plain')}
          >
            Download
          </Button>
        </div>
      }
    >
      <pre
        tabIndex={0}
        aria-label={`${document.name} as plain text`}
        className="h-full overflow-auto rounded-sm border border-rule-strong bg-sheet p-3 font-code text-[13px] leading-[18px]"
      >
        {text}
      </pre>
    </BoardFrame>
  )
}

function LayerChoice({ shown }: { shown: ShownOverlay }) {
  const stage = useStudy((state) => state.stage)
  const layers = useStudy((state) => state.layers)
  const toggle = useStudy((state) => state.toggleLayer)
  const kind = useStudy((state) => state.document.kind)
  const view = useStudy((state) => state.view)
  const covered = useCovered()
  const { plan, learn } = useParts()
  const held = useStore(plan.store, (state) => state.held !== null)
  const optimum = useStore(learn.store, (state) => state.optimum)
  const traces = useStore(learn.store, (state) => state.frame?.traces != null) && stage === 'learn'
  const planned = useStudy((state) => state.planned)
  const setPlanned = useStudy((state) => state.setPlanned)
  if (stage === 'build')
    return (
      <>
        {kind === 'grid' && (
          <span className="text-[13px] text-ink-soft">Draw on the board with the tool at the right.</span>
        )}
        {!covered && (
          <label className="flex items-center gap-1.5" title="Values and policy follow every edit.">
            <input
              type="checkbox"
              className="size-4"
              checked={planned}
              onChange={(event) => setPlanned(event.target.checked)}
            />
            Show the plan
          </label>
        )}
      </>
    )
  if (covered && stage === 'plan')
    return <span className="text-[13px] text-ink-soft">The truth is hidden: reveal it to see the plan.</span>
  const offered = (Object.keys(LAYERS) as Layer[]).filter(
    (layer) =>
      (layer !== 'visits' || stage === 'learn') &&
      (layer === 'values' || layer === 'policy' || view !== 'stages') &&
      (layer !== 'distance' || (stage === 'learn' && optimum !== null && !covered)) &&
      (layer !== 'traces' || traces) &&
      (layer !== 'difference' || (stage === 'plan' && held)) &&
      // Arms stand apart: the value of a state is no place on them.
      !(kind === 'bandit' && ['values', 'changes', 'distance', 'traces'].includes(layer)),
  )
  return (
    <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
      <legend className="sr-only">Layers</legend>
      {offered.map((layer) => (
        <label key={layer} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4"
            checked={layers.has(layer)}
            onChange={() => toggle(layer)}
          />
          {layer === 'actionValues' && shown.titles.rows === 'preferences' ? 'Preferences' : LAYERS[layer]}
        </label>
      ))}
    </fieldset>
  )
}

function ViewChoice({ offered }: { offered: readonly View[] }) {
  const view = useStudy((state) => state.view)
  const setView = useStudy((state) => state.setView)
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
          {VIEWS[each]}
        </button>
      ))}
    </div>
  )
}
