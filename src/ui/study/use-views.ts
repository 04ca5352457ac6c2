import { useStore } from 'zustand'
import { planMethod, type PlanMethodId } from '../../core/plan/plan-methods'
import { useParts, useStudy } from './study-context'
import { VIEWS, type Stage, type View } from './study-store'

/** The ways to look at an environment that a stage has something for. */
export function viewsOf(stage: Stage, method: PlanMethodId): View[] {
  return (Object.keys(VIEWS) as View[]).filter(
    (view) =>
      (view !== 'curve' || stage !== 'build') &&
      (view !== 'stages' || (stage === 'plan' && planMethod(method).staged === true)),
  )
}

export function useViews(): View[] {
  const { plan } = useParts()
  const stage = useStudy((state) => state.stage)
  const method = useStore(plan.store, (state) => state.method)
  return viewsOf(stage, method)
}
