import { useMemo } from 'react'
import { useStore } from 'zustand'
import { LEARN_METHODS } from '../../core/learn/methods'
import type { Model } from '../../core/model/model'
import { comparePlans, type HeldPlan, type PlanDifference } from '../../core/plan/difference'
import type { LearnFrame, PlanFrame } from '../../workers/protocol'
import type { LearnMethodId } from '../../core/learn/methods'
import type { Layer, Overlay } from '../board/overlay'
import { useModel, useParts, useStudy } from './study-context'

export interface ShownOverlay {
  readonly overlay: Overlay | undefined
  /** The state the agent is in. */
  readonly agent: number | null
  /** The states that the last single backup looked ahead to. */
  readonly reads: readonly number[]
  readonly titles: { readonly values: string; readonly rows: string }
}

const NOTHING: ShownOverlay = {
  overlay: undefined,
  agent: null,
  reads: [],
  titles: { values: 'value', rows: 'action values' },
}

/** What the stage lays over the board; of the plan beside it when asked for. */
export function useOverlay(which: 'first' | 'beside' = 'first'): ShownOverlay {
  const parts = useParts()
  const { learn } = parts
  const plan = which === 'first' ? parts.plan : parts.beside
  const stage = useStudy((state) => state.stage)
  const layers = useStudy((state) => state.layers)
  const planned = useStudy((state) => state.planned)
  const covered = useCovered()
  const planFrame = useStore(plan.store, (state) => state.frame)
  const held = useStore(parts.plan.store, (state) => state.held)
  const learnFrame = useStore(learn.store, (state) => state.frame)
  const method = useStore(learn.store, (state) => state.running?.method)
  const compiled = useModel((state) => state.compiled)
  const model = compiled?.model
  return useMemo(() => {
    if (!model) return NOTHING
    if ((stage === 'plan' || (stage === 'build' && planned)) && planFrame && !covered)
      return planOverlay(model, planFrame, layers, held)
    if (stage === 'learn' && learnFrame && method) return learnOverlay(model, learnFrame, method, covered)
    return NOTHING
  }, [model, stage, planned, planFrame, held, layers, learnFrame, method, covered])
}

function planOverlay(
  model: Model,
  frame: PlanFrame,
  layers: ReadonlySet<Layer>,
  held: HeldPlan | null,
): ShownOverlay {
  const { values, rowValues, policy } = frame
  if (values.length !== model.states || rowValues.length !== model.rows) return NOTHING
  const reads = frame.current >= 0 ? nextStates(model, frame.current) : []
  const difference = held && layers.has('difference') ? differenceOf(model, frame, held) : undefined
  if (difference)
    return {
      ...NOTHING,
      reads,
      overlay: {
        title: 'value now less value held',
        values: difference.values,
        rowValues,
        policy,
        was: difference.policy,
        turned: difference.turned,
      },
      titles: { values: 'value now less value held', rows: 'action values' },
    }
  // Before the first sweep every action looks the same: there is no policy to show, unless one was given.
  if (frame.sweep === 0 && !frame.holdsPolicy) return { ...NOTHING, overlay: { values } }
  const marked = layers.has('changes') && frame.sweep > 0
  return {
    ...NOTHING,
    reads,
    overlay: {
      values,
      rowValues,
      policy,
      was: marked ? (frame.policyBefore ?? undefined) : undefined,
      moved: marked ? values.map((value, s) => value - frame.before[s]) : undefined,
    },
  }
}

function nextStates({ rowStart, outcomeStart, outcomeState }: Model, state: number): number[] {
  return [...new Set(outcomeState.subarray(outcomeStart[rowStart[state]], outcomeStart[rowStart[state + 1]]))]
}

const compared = new WeakMap<PlanFrame, { readonly held: HeldPlan; readonly difference: PlanDifference }>()

/** What a frame differs in from a held plan; computed once a frame, whoever asks. */
export function differenceOf(model: Model, frame: PlanFrame, held: HeldPlan): PlanDifference {
  const entry = compared.get(frame)
  if (entry?.held === held) return entry.difference
  const difference = comparePlans(model, frame.values, frame.policy, held)
  compared.set(frame, { held, difference })
  return difference
}

function learnOverlay(
  model: Model,
  frame: LearnFrame,
  method: LearnMethodId,
  covered: boolean,
): ShownOverlay {
  const { values, rowValues, policy, rowVisits } = frame
  if (values.length !== model.states) return NOTHING
  const preferences = LEARN_METHODS[method].tableHolds === 'preferences'
  return {
    ...NOTHING,
    // The exact value of a policy would give the hidden pay-offs away.
    overlay: {
      title: preferences ? 'exact value of the policy' : 'largest action value',
      values: preferences && covered ? undefined : values,
      rowValues,
      policy,
      rowVisits,
      preferences,
    },
    agent: frame.state >= 0 ? frame.state : frame.steps > 0 ? frame.last.next : null,
    titles: preferences
      ? { values: 'exact value of the policy', rows: 'preferences' }
      : { values: 'largest action value', rows: 'action values' },
  }
}

/** Whether the truth is hidden from the class: then nothing computed from it is shown. */
export function useCovered(): boolean {
  return useStudy((state) => state.document.kind === 'bandit' && state.document.bandit.hidden)
}
