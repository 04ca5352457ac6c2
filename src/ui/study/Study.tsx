'use client'

import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { useStore } from 'zustand'
import type { RunLink } from '../../session/learn/run-link'
import { isStage, type Stage } from '../../session/study/names'
import { openStudy, wireStudy } from '../../session/study/open-study'
import type { EnvironmentRecord } from '../../server/contract/environments'
import { kindView } from '../kinds/kinds'
import { StagesContext } from '../stages/stage-context'
import type { StageView } from '../stages/stage'
import { STAGES } from '../stages/stages'
import { SpreadPlace } from '../timeline/spread-place'
import { BoardPane } from './BoardPane'
import { Head } from './Head'
import { KnobPanel } from './KnobPanel'
import { PictureSlot } from './PictureSlot'
import { SaveNotice } from './SaveNotice'
import { StudyContext, type StudyParts } from './study-context'
import { useFocusHome } from './use-focus-home'
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
  const [parts] = useState<StudyParts>(() => ({
    ...openStudy(record, stage, link, kindView(record.document.kind).firstLayers),
    pictures: new Map(),
  }))
  const { study } = parts
  const [place, setPlace] = useState<HTMLElement | null>(null)
  const awake = useSyncExternalStore(
    () => () => {},
    () => true,
    () => false,
  )
  const name = useStore(study, (state) => state.stage)
  const document = useStore(study, (state) => state.document)
  const { title, Panel, Strip, writes }: StageView = STAGES[name]
  const { desk } = kindView(document.kind)
  const shownDesk = writes ? desk : null

  useEffect(() => wireStudy(parts), [parts])
  useAddress(parts, record.id, name)
  useSavingOnLeave(parts)
  useStudyKeys(parts)
  const root = useRef<HTMLDivElement>(null)
  useFocusHome(root)
  // Who comes here from the shelf begins in the study, not before the page.
  useEffect(() => {
    const { activeElement, body } = window.document
    if (activeElement === body) root.current?.focus({ preventScroll: true })
  }, [awake])

  return (
    <StudyContext value={parts}>
      <StagesContext value={STAGES}>
        {/* Until the page is awake a change of a field would be lost, so none is taken. */}
        <div
          ref={root}
          tabIndex={-1}
          className="flex flex-col outline-none md:h-dvh md:min-h-[640px]"
          data-ready={awake}
          inert={!awake}
        >
          <Head />
          <SaveNotice />
          <main
            className={`grid min-h-0 flex-1 grid-cols-1 md:grid-rows-1 ${
              shownDesk
                ? `grid-rows-[26rem_26rem_auto] ${shownDesk.columns}`
                : 'grid-rows-[26rem_auto] md:grid-cols-[minmax(0,1fr)_25.5rem]'
            }`}
          >
            {shownDesk && <shownDesk.Desk document={document} />}
            <PictureSlot slot="board">
              <BoardPane onSpreadPlace={setPlace} />
            </PictureSlot>
            <aside
              className="min-h-0 space-y-4 overflow-y-auto border-l border-rule-strong bg-sheet px-4 py-3"
              aria-label={title}
            >
              {!shownDesk?.knobsInPanel && <KnobPanel document={document} />}
              <Panel />
            </aside>
          </main>
          <SpreadPlace value={place}>
            <PictureSlot slot="strip">{Strip && <Strip />}</PictureSlot>
          </SpreadPlace>
        </div>
      </StagesContext>
    </StudyContext>
  )
}

/** The address names the stage, so that a link opens it. */
function useAddress({ study }: StudyParts, id: string, stage: Stage): void {
  useEffect(() => {
    const address = `/environment/${id}/${stage}`
    if (window.location.pathname !== address) window.history.pushState(null, '', address)
  }, [id, stage])
  useEffect(() => {
    const goBack = () => {
      const named = window.location.pathname.split('/')[3]
      if (isStage(named)) study.getState().show(named)
    }
    window.addEventListener('popstate', goBack)
    return () => window.removeEventListener('popstate', goBack)
  }, [study])
}

/** Leaving saves what is not saved yet. */
function useSavingOnLeave({ study, compare }: StudyParts): void {
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (compare.shelf.store.getState().saving !== 'saved') {
        void compare.shelf.save()
        event.preventDefault()
      }
      if (study.getState().saving.state === 'saved') return
      study.getState().leave()
      event.preventDefault()
    }
    window.addEventListener('beforeunload', leave)
    return () => {
      window.removeEventListener('beforeunload', leave)
      void study.getState().save()
    }
  }, [study, compare])
}
