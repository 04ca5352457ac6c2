import { useMemo } from 'react'
import type { LastChange } from '../board/StateTable'
import type { View } from '../../core/lesson/names'
import { useStages } from '../stages/stage-context'
import type { StageHistory, StageView } from '../stages/stage'
import { useParts, useStudy, type StudyParts } from './study-context'
import { useStates } from './use-states'

/** The stage that is shown; `states` is another list whenever something has changed that it depends on. */
export function useStage(): { stage: StageView; states: readonly unknown[] } {
  const parts = useParts()
  const name = useStudy((state) => state.stage)
  const stage = useStages()[name]
  const sources = useMemo(() => stage.sources(parts), [stage, parts])
  return { stage, states: useStates(sources) }
}

/** The ways to look at the environment that the stage has something for, and the one that is chosen. */
export function useViews(): { view: View; offered: readonly View[] } {
  const parts = useParts()
  const { stage } = useStage()
  const chosen = useStudy((state) => state.view)
  const offered = stage.views(parts)
  return { view: offered.includes(chosen) ? chosen : offered[0], offered }
}

/** What is undone now: changes of the stage where it has its own, else those of the environment. */
export function historyOf(parts: StudyParts, stage: StageView): StageHistory {
  const { past, future, undo, redo } = parts.study.getState()
  return stage.history?.(parts) ?? { canUndo: past.length > 0, canRedo: future.length > 0, undo, redo }
}

/** What the last step changed, where the stage has steps. */
export function useLastChange(): LastChange | null {
  const parts = useParts()
  const { stage } = useStage()
  return stage.lastChange?.(parts) ?? null
}
