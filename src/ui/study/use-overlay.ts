import { useMemo } from 'react'
import { useStore } from 'zustand'
import { kindOf } from '../../core/kinds/kinds'
import { LEARN_METHODS } from '../../core/learn/methods/methods'
import type { Model } from '../../core/model/model'
import { comparePlans, type HeldPlan, type PlanDifference } from '../../core/plan/difference'
import type { LearnFrame, PlanFrame } from '../../workers/protocol'
import type { TableHolds } from '../../core/learn/learner'
import type { LearnMethodId } from '../../core/learn/methods/methods'
import { visitsOfStates } from '../board/grid-picture'
import type { Layer, Overlay } from '../board/overlay'
import type { WatchedTrial } from '../stages/learn/trials-session'
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
  const optimum = useStore(learn.store, (state) => state.optimum)
  const watched = useStore(parts.trials.store, (state) => state.watched)
  const compiled = useModel((state) => state.compiled)
  const model = compiled?.model
  return useMemo(() => {
    if (!model) return NOTHING
    if ((stage === 'plan' || (stage === 'build' && planned)) && planFrame && !covered)
      return planOverlay(model, planFrame, layers, held)
    if (stage === 'learn' && learnFrame && method)
      return withTrial(
        learnOverlay(model, learnFrame, method, { covered, layers, optimum: optimum?.values }),
        watched,
      )
    return NOTHING
  }, [model, stage, planned, planFrame, held, layers, learnFrame, method, optimum, watched, covered])
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

/** What the values of a learned table are. */
const HELD: Record<TableHolds, { values: string; rows: string }> = {
  'action values': { values: 'largest action value', rows: 'action values' },
  values: { values: 'value', rows: 'action values' },
  preferences: { values: 'exact value of the policy', rows: 'preferences' },
}

/** While a trial is watched the agent is the one of the trial. */
function withTrial(shown: ShownOverlay, watched: WatchedTrial | null): ShownOverlay {
  return watched ? { ...shown, agent: watched.episode.states[watched.at] } : shown
}

interface LearnView {
  readonly covered: boolean
  readonly layers: ReadonlySet<Layer>
  /** [states] the best there is; undefined until it is known */
  readonly optimum: Float64Array | undefined
}

function learnOverlay(model: Model, frame: LearnFrame, method: LearnMethodId, view: LearnView): ShownOverlay {
  const { values, rowValues, policy, rowVisits, moved } = frame
  const { covered, layers } = view
  if (values.length !== model.states) return NOTHING
  const { tableHolds, finds } = LEARN_METHODS[method]
  const preferences = tableHolds === 'preferences'
  const shown = { ...HELD[tableHolds], ...instead(model, frame, finds, view) }
  return {
    ...NOTHING,
    overlay: {
      title: shown.values,
      // The exact value of a policy would give the hidden pay-offs away.
      values: shown.numbers ?? (preferences && covered ? undefined : values),
      rowValues: rowValues ?? undefined,
      policy,
      rowVisits,
      preferences,
      moved: layers.has('changes') ? (moved ?? undefined) : undefined,
    },
    agent: frame.state >= 0 ? frame.state : frame.steps > 0 ? frame.last.next : null,
    titles: { values: shown.values, rows: shown.rows },
  }
}

/** Numbers that lie over the board in the place of the values, where a layer asks for them, and what they are. */
function instead(
  model: Model,
  { values, traces }: LearnFrame,
  finds: 'best' | 'worth',
  { covered, layers, optimum }: LearnView,
): { numbers?: Float64Array; values?: string } {
  if (layers.has('traces') && traces)
    return {
      values: 'trace',
      // Where there is no trace there is nothing to show.
      numbers: (traces.length === model.states ? traces : visitsOfStates(model, traces)).map((trace) =>
        trace > 0 ? trace : NaN,
      ),
    }
  if (layers.has('distance') && optimum && !covered)
    return {
      values: finds === 'best' ? 'value less the best there is' : 'value less the exact one',
      numbers: values.map((value, s) => value - optimum[s]),
    }
  return {}
}

/** Whether the truth is hidden from the class: then nothing computed from it is shown. */
export function useCovered(): boolean {
  return useStudy((state) => kindOf(state.document).isCovered(state.document))
}
