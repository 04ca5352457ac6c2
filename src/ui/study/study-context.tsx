'use client'

import { createContext, useContext } from 'react'
import { useStore } from 'zustand'
import { kindOf } from '../../core/kinds/kinds'
import type { ModelState } from '../../session/study/model-session'
import type { Study } from '../../session/study/study'
import type { StudyState } from '../../session/study/study-store'
import type { PictureShelf } from '../pictures/picture-shelf'

/** What belongs to one open environment on screen. */
export interface StudyParts extends Study {
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

/** Whether the truth is hidden from the class: then nothing computed from it is shown. */
export function useCovered(): boolean {
  return useStudy((state) => kindOf(state.document).isCovered(state.document))
}
