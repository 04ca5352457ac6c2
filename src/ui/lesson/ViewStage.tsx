'use client'

import { useEffect, useMemo, useState, type ReactNode } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { documentOfView } from '../../core/lesson/lesson'
import type { LessonView } from '../../core/lesson/lesson-document'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import { openSandbox, sandboxOf } from '../../session/lesson/sandbox'
import { showScene } from '../../session/lesson/show-scene'
import { wireStudy } from '../../session/study/open-study'
import { StagesContext } from '../stages/stage-context'
import { STAGES } from '../stages/stages'
import { StudyContext, type StudyParts } from '../study/study-context'
import { useStudyKeys } from '../study/use-study-keys'
import { useFacts } from './use-facts'

/** A view of a lesson that is open: its environment can be played with, and nothing of that is saved. */
export interface OpenView {
  readonly parts: StudyParts
  readonly facts: ViewFacts | null
  /** What no longer fits, in full sentences. */
  readonly lost: readonly string[]
}

/**
 * Opens a view in a study of its own. To be mounted anew for another view, and to return to the prepared state.
 * @param document  that is shown: as it is now, or as it was
 */
export function ViewStage({
  lesson,
  view,
  document,
  children,
}: {
  /** The number of the lesson. */
  lesson: string
  view: LessonView
  document: EnvironmentDocument
  children(open: OpenView): ReactNode
}) {
  const { scene } = view
  const shown = useMemo(() => documentOfView(scene, document), [scene, document])
  const [parts] = useState<StudyParts>(() => ({
    ...openSandbox(sandboxOf(lesson, view.environment), shown.document, scene),
    pictures: new Map(),
  }))
  const [lost, setLost] = useState<readonly string[]>([])
  useEffect(() => {
    const unwire = wireStudy(parts)
    const { stop } = showScene(parts, scene, (words) => setLost((before) => [...new Set([...before, words])]))
    // The one comparison that is there.
    if (scene.compare)
      void parts.compare.open('1').then(() => parts.compare.start(parts.study.getState().document))
    return () => {
      stop()
      unwire()
    }
    // What is mounted shows one view.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [parts])
  useStudyKeys(parts)
  const facts = useFacts(parts)
  const knobs = shown.lost.map((name) => `The knob ${name} is gone, or does not go so far any more.`)
  return (
    <StudyContext value={parts}>
      <StagesContext value={STAGES}>{children({ parts, facts, lost: [...knobs, ...lost] })}</StagesContext>
    </StudyContext>
  )
}
