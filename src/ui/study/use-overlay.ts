import { useMemo } from 'react'
import { useStore } from 'zustand'
import { LEARN_METHODS } from '../../core/learn/methods'
import { greedyPolicy } from '../../core/plan/backup'
import type { Overlay } from '../board/overlay'
import { useModel, useParts, useStudy } from './study-context'

export interface ShownOverlay {
  readonly overlay: Overlay | undefined
  /** The state the agent is in. */
  readonly agent: number | null
  readonly titles: { readonly values: string; readonly rows: string }
}

const NOTHING: ShownOverlay = {
  overlay: undefined,
  agent: null,
  titles: { values: 'value', rows: 'action values' },
}

/** What the stage lays over the board. */
export function useOverlay(): ShownOverlay {
  const { plan, learn } = useParts()
  const stage = useStudy((state) => state.stage)
  const covered = useCovered()
  const planFrame = useStore(plan.store, (state) => state.frame)
  const learnFrame = useStore(learn.store, (state) => state.frame)
  const method = useStore(learn.store, (state) => state.running?.method)
  const compiled = useModel((state) => state.compiled)
  return useMemo(() => {
    if (!compiled) return NOTHING
    const { model } = compiled
    if (stage === 'plan' && planFrame && planFrame.values.length === model.states && !covered) {
      // Before the first sweep every action looks the same: there is no policy to show yet.
      if (planFrame.sweep === 0) return { ...NOTHING, overlay: { values: planFrame.values } }
      const { values, rowValues } = planFrame
      if (rowValues.length !== model.rows) return NOTHING
      const policy = planFrame.policy ?? greedyPolicy(model.rowStart, rowValues)
      if (policy.length !== model.rows) return NOTHING
      return { ...NOTHING, overlay: { values, rowValues, policy } }
    }
    if (stage === 'learn' && learnFrame && method && learnFrame.values.length === model.states) {
      const { values, rowValues, policy, rowVisits } = learnFrame
      const preferences = LEARN_METHODS[method].tableHolds === 'preferences'
      return {
        // The exact value of a policy would give the hidden pay-offs away.
        overlay: {
          values: preferences && covered ? undefined : values,
          rowValues,
          policy,
          rowVisits,
          preferences,
        },
        agent: learnFrame.state >= 0 ? learnFrame.state : learnFrame.steps > 0 ? learnFrame.last.next : null,
        titles: preferences
          ? { values: 'exact value of the policy', rows: 'preferences' }
          : { values: 'largest action value', rows: 'action values' },
      }
    }
    return NOTHING
  }, [compiled, stage, planFrame, learnFrame, method, covered])
}

/** Whether the truth is hidden from the class: then nothing computed from it is shown. */
export function useCovered(): boolean {
  return useStudy((state) => state.document.kind === 'bandit' && state.document.bandit.hidden)
}
