'use client'

import { useEffect, useState, type ReactNode } from 'react'
import { useStore } from 'zustand'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { LessonView } from '../../core/lesson/lesson-document'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import { openView, type NextView } from '../../session/lesson/opened-view'
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
 * Shows a view in a study of its own. To be mounted anew for another view, and to return to the prepared state.
 * @param document  that is shown: as it is now, or as it was
 */
export function ViewStage({
  lesson,
  view,
  document,
  next,
  children,
}: {
  /** The number of the lesson. */
  lesson: string
  view: LessonView
  document: EnvironmentDocument
  /** Where it may be ready already. */
  next?: NextView
  children(open: OpenView): ReactNode
}) {
  const [opened] = useState(() => (next ? next.take(view, document) : openView(lesson, view, document)))
  const [parts] = useState<StudyParts>(() => ({ ...opened.parts, pictures: new Map() }))
  const lost = useStore(opened.lost)
  useEffect(() => opened.hold(), [opened])
  useStudyKeys(parts)
  const facts = useFacts(parts)
  return (
    <StudyContext value={parts}>
      <StagesContext value={STAGES}>{children({ parts, facts, lost })}</StagesContext>
    </StudyContext>
  )
}
