'use client'

import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { useStore } from 'zustand'
import type { LinkedScene } from '../../session/lesson/link'
import type { RunLink } from '../../session/learn/run-link'
import { isStage, type Stage } from '../../core/lesson/names'
import { openStudy, wireStudy } from '../../session/study/open-study'
import type { EnvironmentRecord } from '../../server/contract/environments'
import { kindView } from '../kinds/kinds'
import { StagesContext } from '../stages/stage-context'
import { STAGES } from '../stages/stages'
import { Head } from './Head'
import { SaveNotice } from './SaveNotice'
import { StudyBody } from './StudyBody'
import { StudyContext, useStudy, type StudyParts } from './study-context'
import { useFocusHome } from './use-focus-home'
import { useStudyKeys } from './use-study-keys'
import { FollowSlot } from '../class/FollowSlot'

/** One open environment: head, board, side column, timeline. */
export function Study({
  record,
  stage,
  link,
  linked,
  planned = false,
}: {
  record: EnvironmentRecord
  stage: Stage
  /** The settings that the address asks for. */
  link: RunLink | null
  /** What the address says that is to be on the screen. */
  linked: LinkedScene | null
  /** Whether the plan lies over the board of Build from the beginning. */
  planned?: boolean
}) {
  const [parts] = useState<StudyParts>(() => {
    const opened = openStudy(record, stage, link, kindView(record.document.kind).firstLayers)
    if (planned) opened.study.getState().setPlanned(true)
    return { ...opened, pictures: new Map() }
  })
  const { study } = parts
  const awake = useSyncExternalStore(
    () => () => {},
    () => true,
    () => false,
  )
  const name = useStore(study, (state) => state.stage)

  useEffect(() => wireStudy(parts), [parts])
  const notices = useLinkedScene(parts, linked)
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
          <FollowedHere />
          <SaveNotice />
          {notices.map((each) => (
            <p
              key={each}
              role="status"
              className="border-b border-rule-strong bg-sheet px-4 py-1.5 text-[13.5px]"
            >
              {each}
            </p>
          ))}
          <StudyBody />
        </div>
      </StagesContext>
    </StudyContext>
  )
}

/** Puts on the screen what a link says. @returns what of it does not fit, in full sentences */
function useLinkedScene(parts: StudyParts, linked: LinkedScene | null): readonly string[] {
  const [lost, setLost] = useState<readonly string[]>(() =>
    linked && 'problem' in linked ? [linked.problem] : [],
  )
  useEffect(() => {
    if (!linked || 'problem' in linked) return
    const lose = (words: string) => setLost((before) => [...new Set([...before, words])])
    let stop = () => {}
    let left = false
    void import('../../session/lesson/show-scene').then(({ showScene, turnedElsewhere }) => {
      if (left) return
      for (const words of turnedElsewhere(parts.study.getState().document, linked.scene)) lose(words)
      stop = showScene(parts, linked.scene, lose).stop
    })
    return () => {
      left = true
      stop()
    }
  }, [parts, linked])
  return lost
}

/** Tells a class what is shown, where one follows. */
function FollowedHere() {
  return <FollowSlot title={useStudy((state) => state.document.name)} />
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
