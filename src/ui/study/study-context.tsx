'use client'

import { createContext, useContext } from 'react'
import { useStore, type StoreApi } from 'zustand'
import type { CheckpointShelf } from '../stages/learn/checkpoint-shelf'
import type { Course } from '../stages/learn/course'
import type { CrowdSession } from '../stages/learn/crowd-session'
import type { TrialsSession } from '../stages/learn/trials-session'
import type { LearnSession } from '../stages/learn/learn-session'
import type { PlanDrive } from '../stages/plan/plan-drive'
import type { PlanSession } from '../stages/plan/plan-session'
import type { PictureShelf } from '../pictures/picture-shelf'
import type { ModelSession, ModelState } from './model-session'
import type { StudyState } from './study-store'

/** What belongs to one open environment. */
export interface StudyParts {
  readonly study: StoreApi<StudyState>
  readonly model: ModelSession
  readonly plan: PlanSession
  /** A second plan of the same model, to compare methods with. */
  readonly beside: PlanSession
  /** What moves the one plan, or both of them. */
  readonly drive: PlanDrive
  readonly learn: LearnSession
  /** Many runs with the settings of that one. */
  readonly crowd: CrowdSession
  /** Episodes without learning. */
  readonly trials: TrialsSession
  /** Learned tables that were kept. */
  readonly kept: CheckpointShelf
  readonly course: Course
  /** What is drawn on screen and can be taken away. */
  readonly pictures: PictureShelf
}

export const StudyContext = createContext<StudyParts | null>(null)

export function useParts(): StudyParts {
  const parts = useContext(StudyContext)
  if (!parts) throw new Error('There is no study around this component.')
  return parts
}

export function useStudy<T>(select: (state: StudyState) => T): T {
  return useStore(useParts().study, select)
}

export function useModel<T>(select: (state: ModelState) => T): T {
  return useStore(useParts().model.store, select)
}
