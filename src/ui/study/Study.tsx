'use client'

import { useEffect, useState, useSyncExternalStore } from 'react'
import { useStore } from 'zustand'
import type { EnvironmentRecord } from '../../server/contract/environments'
import { BuildPanel } from '../stages/build/BuildPanel'
import { LearnPanel } from '../stages/learn/LearnPanel'
import { createCheckpointShelf } from '../stages/learn/checkpoint-shelf'
import { createCourse } from '../stages/learn/course'
import { createCrowdSession } from '../stages/learn/crowd-session'
import { createLearnSession } from '../stages/learn/learn-session'
import type { RunLink } from '../stages/learn/run-link'
import { createTrialsSession } from '../stages/learn/trials-session'
import { useLearning } from '../stages/learn/use-learning'
import { LearnTimeline } from '../stages/learn/LearnTimeline'
import { PlanPanel } from '../stages/plan/PlanPanel'
import { createPlanDrive } from '../stages/plan/plan-drive'
import { createPlanSession } from '../stages/plan/plan-session'
import { PlanTimeline } from '../stages/plan/PlanTimeline'
import { usePlans } from '../stages/plan/use-plans'
import { KnobPanel } from './KnobPanel'
import { PictureSlot } from './PictureSlot'
import { RulebookDesk } from '../rulebook/RulebookDesk'
import { TableDesk } from '../table/TableDesk'
import { BoardPane } from './BoardPane'
import { compilesAtOnce } from './compiled'
import { followDocument } from './follow-document'
import { createModelSession } from './model-session'
import { Head } from './Head'
import { SaveNotice } from './SaveNotice'
import { cursorAfter } from './selection'
import { StudyContext, type StudyParts } from './study-context'
import { createStudyStore, STAGES, type Stage } from './study-store'
import { useStudyKeys } from './use-study-keys'

/** One open environment: head, board, side column, timeline. */
export function Study({
  record,
  stage,
  link,
}: {
  record: EnvironmentRecord
  stage: Stage
  /** The settings that the address asks for. */
  link: RunLink | null
}) {
  const [parts] = useState<StudyParts>(() => {
    const model = createModelSession()
    // What needs no worker is there from the first picture on.
    if (compilesAtOnce(record.document)) model.open(record.document)
    const plan = createPlanSession(record.document.discount)
    const beside = createPlanSession(record.document.discount)
    return {
      study: createStudyStore(record, stage),
      model,
      plan,
      beside,
      drive: createPlanDrive(plan, beside),
      learn: createLearnSession(record.id, record.document, link),
      crowd: createCrowdSession(record.id),
      trials: createTrialsSession(),
      kept: createCheckpointShelf(record.id),
      course: createCourse(),
      pictures: new Map(),
    }
  })
  const { study, model } = parts
  const awake = useSyncExternalStore(
    () => () => {},
    () => true,
    () => false,
  )
  const shown = useStore(study, (state) => state.stage)
  const document = useStore(study, (state) => state.document)

  const writing = (document.kind === 'rulebook' || document.kind === 'table') && shown === 'build'

  // The model follows the document at once, so that a board never mixes the two.
  useEffect(() => {
    model.open(study.getState().document)
    const stopFollowing = study.subscribe((state, before) => {
      if (state.document !== before.document) followDocument(before.document, state.document, parts)
      model.open(state.document)
    })
    const stopSelecting = model.store.subscribe((state, before) => {
      if (state.compiled === before.compiled) return
      const { cursor, select } = study.getState()
      const after = cursorAfter(before.compiled, state.compiled, cursor)
      if (after !== cursor) select(after)
    })
    return () => {
      stopFollowing()
      stopSelecting()
      model.close()
    }
  }, [study, model, parts])

  // The address names the stage, so that a link opens it; leaving saves what is not saved yet.
  useEffect(() => {
    const address = `/environment/${record.id}/${shown}`
    if (window.location.pathname !== address) window.history.pushState(null, '', address)
  }, [record.id, shown])
  useEffect(() => {
    const goBack = () => {
      const named = window.location.pathname.split('/')[3] as Stage
      if (named in STAGES) study.getState().show(named)
    }
    const leave = (event: BeforeUnloadEvent) => {
      if (study.getState().saving.state === 'saved') return
      void study.getState().save()
      event.preventDefault()
    }
    window.addEventListener('popstate', goBack)
    window.addEventListener('beforeunload', leave)
    return () => {
      window.removeEventListener('popstate', goBack)
      window.removeEventListener('beforeunload', leave)
      void study.getState().save()
    }
  }, [study])
  useStudyKeys(parts)

  return (
    <StudyContext value={parts}>
      <Runs />
      {/* Until the page is awake a change of a field would be lost, so none is taken. */}
      <div className="flex flex-col md:h-dvh md:min-h-[640px]" data-ready={awake} inert={!awake}>
        <Head />
        <SaveNotice />
        <main
          className={`grid min-h-0 flex-1 grid-cols-1 md:grid-rows-1 ${
            writing
              ? `grid-rows-[26rem_26rem_auto] ${document.kind === 'table' ? 'md:grid-cols-[29rem_minmax(0,1fr)_17rem]' : 'md:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_21rem]'}`
              : 'grid-rows-[26rem_auto] md:grid-cols-[minmax(0,1fr)_25.5rem]'
          }`}
        >
          {writing && document.kind === 'rulebook' && <RulebookDesk document={document} />}
          {writing && document.kind === 'table' && <TableDesk document={document} />}
          <PictureSlot slot="board">
            <BoardPane />
          </PictureSlot>
          <aside
            className="min-h-0 space-y-4 overflow-y-auto border-l border-rule-strong bg-sheet px-4 py-3"
            aria-label={STAGES[shown]}
          >
            {!(writing && document.kind === 'rulebook') && <KnobPanel document={document} />}
            {shown === 'build' && <BuildPanel />}
            {shown === 'plan' && <PlanPanel />}
            {shown === 'learn' && <LearnPanel />}
          </aside>
        </main>
        <PictureSlot slot="strip">
          {shown === 'plan' && <PlanTimeline />}
          {shown === 'learn' && <LearnTimeline />}
        </PictureSlot>
      </div>
    </StudyContext>
  )
}

/** The plans and runs of the study, which live as long as it does. */
function Runs() {
  usePlans()
  useLearning()
  return null
}
