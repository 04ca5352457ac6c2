'use client'

import { useStore } from 'zustand'
import { planProblem } from '../../../core/plan/planner'
import { PLAN_METHOD_IDS, PLAN_METHODS, planMethod, type PlanMethodId } from '../../../core/plan/plan-methods'
import { pictureScale } from '../../board/scales'
import { colourAsProperty } from '../../board/svg-pen'
import { valueColour } from '../../board/value-scale'
import { Select } from '../../parts/Select'
import { ProblemList } from '../../parts/ProblemList'
import { StudyTabs } from '../../study/StudyTabs'
import { stateAt } from '../../../session/study/cursor'
import { EndingNotes } from '../../study/EndingNotes'
import { RevealNote } from '../../study/RevealNote'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { useOverlay } from '../../study/use-overlay'
import { PseudoCode } from '../../working/PseudoCode'
import { WorkingView } from '../../working/WorkingView'
import { DrawnPolicy } from './DrawnPolicy'
import { PlanFields } from './PlanFields'
import { WhatIf } from './WhatIf'

const TITLES = Object.fromEntries(PLAN_METHOD_IDS.map((each) => [each, PLAN_METHODS[each].title]))

/** The controls of Plan, and the working of the selected state. */
export function PlanPanel() {
  const { plan } = useParts()
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const { method: id, beside, held, frame, warm, failure } = useStore(plan.store)
  const covered = useCovered()
  if (!compiled) return <ProblemList problems={problems} />
  const method = planMethod(id)
  const problem = frame && planProblem(frame.status)
  return (
    <div className="space-y-3">
      <section className="space-y-2">
        <Select
          label="Method"
          value={id}
          options={TITLES}
          onChange={(value) => plan.choose({ method: value as PlanMethodId })}
        />
        <p className="text-[13px] leading-[18px] text-ink-soft" title={method.source}>
          {method.idea}
        </p>
        <PlanFields />
      </section>
      <DrawnPolicy />
      {!problem && !method.staged && <EndingNotes cap={Infinity} />}
      {failure && (
        <p role="alert" className="text-alert">
          {failure}
        </p>
      )}
      {problem && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {problem}
        </p>
      )}
      {warm && frame && frame.method !== id && (
        <p className="border-l-4 border-slate pl-2.5 text-[13px] text-ink-soft">
          The plan follows what you change, from its last values and by the quickest method. “To the start”
          begins again with {method.title.toLowerCase()}.
        </p>
      )}
      {covered ? (
        <RevealNote />
      ) : (
        <StudyTabs
          label="About the plan"
          parts={[
            { title: 'Working', content: <PlanWorking /> },
            { title: 'Pseudo-code', content: <PlanPseudoCode /> },
            { title: 'What if', busy: held !== null, content: <WhatIf /> },
            { title: 'Side by side', busy: beside !== null, content: <SideBySide /> },
          ]}
        />
      )}
    </div>
  )
}

function PlanWorking() {
  const { plan } = useParts()
  const cursor = useStudy((state) => state.cursor)
  const compiled = useModel((state) => state.compiled)
  const frame = useStore(plan.store, (state) => state.frame)
  const layers = useStudy((state) => state.layers)
  const { overlay } = useOverlay()
  if (!compiled || !frame || frame.values.length !== compiled.model.states) return null
  if (stateAt(compiled, cursor) === null || !frame.working)
    return <p className="text-ink-soft">Select a state to see how its value was worked out.</p>
  const scale =
    layers.has('values') && !layers.has('difference') ? pictureScale({ overlay, layers }) : undefined
  return (
    <WorkingView
      working={frame.working}
      tint={scale && ((value) => colourAsProperty(valueColour(scale, value)))}
    />
  )
}

function PlanPseudoCode() {
  const { plan } = useParts()
  const { method, frame } = useStore(plan.store)
  const { pseudo, source } = planMethod(frame?.method ?? method)
  return (
    <>
      <PseudoCode lines={pseudo} place={frame?.place ?? 'start'} />
      <p className="text-[13px] text-ink-soft">{source}</p>
    </>
  )
}

function SideBySide() {
  const { plan } = useParts()
  const beside = useStore(plan.store, (state) => state.beside)
  return (
    <>
      <Select
        label="Compare with another method"
        value={beside ?? ''}
        options={{ '': 'none', ...TITLES }}
        onChange={(value) => plan.setBeside(value === '' ? null : (value as PlanMethodId))}
      />
      <p className="text-[13px] text-ink-soft">
        Two boards of the same environment, always after equally many backups of a single action: so the work
        of methods can be compared. The one that finishes first waits for the other.
      </p>
    </>
  )
}
