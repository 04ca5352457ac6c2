'use client'

import { useEffect, useState, useSyncExternalStore } from 'react'
import { useStore } from 'zustand'
import type { EnvironmentRecord } from '../../server/contract/environments'
import { BuildPanel } from '../stages/build/BuildPanel'
import { LearnPanel } from '../stages/learn/LearnPanel'
import { createLearnSession } from '../stages/learn/learn-session'
import { LearnTimeline } from '../stages/learn/LearnTimeline'
import { PlanPanel } from '../stages/plan/PlanPanel'
import { createPlanSession } from '../stages/plan/plan-session'
import { PlanTimeline } from '../stages/plan/PlanTimeline'
import { BoardPane } from './BoardPane'
import { compiledOf } from './compiled'
import { Head } from './Head'
import { SaveNotice } from './SaveNotice'
import { stateAt } from './selection'
import { StudyContext, type StudyParts } from './study-context'
import { createStudyStore, STAGES, type Stage } from './study-store'
import { useStudyKeys } from './use-study-keys'

/** One open environment: head, board, side column, timeline. */
export function Study({ record, stage }: { record: EnvironmentRecord; stage: Stage }) {
  const [parts] = useState<StudyParts>(() => ({
    study: createStudyStore(record, stage),
    plan: createPlanSession(record.document.discount),
    learn: createLearnSession(record.document),
  }))
  const { study, plan, learn } = parts
  const awake = useSyncExternalStore(
    () => () => {},
    () => true,
    () => false,
  )
  const shown = useStore(study, (state) => state.stage)
  const document = useStore(study, (state) => state.document)
  const cursor = useStore(study, (state) => state.cursor)
  const learnSession = useStore(learn.store, (state) => state.running)

  // Plans and runs always belong to the document on the board.
  useEffect(() => {
    if (!compiledOf(document).ok) return
    if (shown === 'plan') plan.open(document)
    if (shown === 'learn') learn.open(document)
  }, [document, shown, plan, learn])

  useEffect(() => {
    learn.watch(stateAt(document, cursor))
  }, [learn, document, cursor, learnSession])

  useEffect(
    () => () => {
      plan.close()
      learn.close()
    },
    [plan, learn],
  )

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
      {/* Until the page is awake a change of a field would be lost, so none is taken. */}
      <div className="flex flex-col md:h-dvh md:min-h-[640px]" data-ready={awake} inert={!awake}>
        <Head />
        <SaveNotice />
        <main className="grid min-h-0 flex-1 grid-cols-1 grid-rows-[26rem_auto] md:grid-cols-[minmax(0,1fr)_25.5rem] md:grid-rows-1">
          <BoardPane />
          <aside
            className="min-h-0 overflow-y-auto border-l border-rule-strong bg-sheet px-4 py-3"
            aria-label={STAGES[shown]}
          >
            {shown === 'build' && <BuildPanel />}
            {shown === 'plan' && <PlanPanel />}
            {shown === 'learn' && <LearnPanel />}
          </aside>
        </main>
        {shown === 'plan' && <PlanTimeline />}
        {shown === 'learn' && <LearnTimeline />}
      </div>
    </StudyContext>
  )
}
