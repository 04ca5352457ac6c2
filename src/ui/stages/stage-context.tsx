'use client'

import { createContext, useContext } from 'react'
import type { Stage } from '../../core/lesson/names'
import type { StageView } from './stage'

/** Every stage: handed down by the study, so that what stands in a stage can ask about all of them. */
export const StagesContext = createContext<Readonly<Record<Stage, StageView>> | null>(null)

export function useStages(): Readonly<Record<Stage, StageView>> {
  const stages = useContext(StagesContext)
  if (!stages) throw new Error('There is no study around this component.')
  return stages
}
