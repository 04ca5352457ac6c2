import type { Model } from '../../../core/model/model'
import type { HeldPlan } from '../../../core/plan/difference'
import type { PlanSession } from '../../../session/plan/plan-session'
import { NOTHING_SHOWN, type ShownOverlay } from '../../board/overlay'
import type { StageOverlay } from '../stage'

/** What a plan lays over the board; null where there is none yet, or none that may be seen. */
export function planOverlay(
  plan: PlanSession,
  held: HeldPlan | null,
  model: Model,
  covered: boolean,
): StageOverlay | null {
  const { frame } = plan.store.getState()
  if (!frame || covered || frame.values.length !== model.states || frame.rowValues.length !== model.rows)
    return null
  const { values, rowValues, policy, current } = frame
  // Before the first sweep every action looks the same: there is no policy to show, unless one was given.
  const begun = frame.sweep > 0 || frame.holdsPolicy
  const shown: ShownOverlay = {
    ...NOTHING_SHOWN,
    reads: begun && current >= 0 ? nextStates(model, current) : [],
    overlay: begun ? { values, rowValues, policy } : { values },
  }
  return { shown, source: { of: 'plan', model, frame, held } }
}

function nextStates({ rowStart, outcomeStart, outcomeState }: Model, state: number): number[] {
  return [...new Set(outcomeState.subarray(outcomeStart[rowStart[state]], outcomeStart[rowStart[state + 1]]))]
}
