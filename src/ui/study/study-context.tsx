'use client'

import { createContext, useContext } from 'react'
import { useStore, type StoreApi } from 'zustand'
import type { LearnSession } from '../stages/learn/learn-session'
import type { PlanSession } from '../stages/plan/plan-session'
import type { ModelSession, ModelState } from './model-session'
import type { StudyState } from './study-store'

/** What belongs to one open environment. */
export interface StudyParts {
  readonly study: StoreApi<StudyState>
  readonly model: ModelSession
  readonly plan: PlanSession
  readonly learn: LearnSession
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
