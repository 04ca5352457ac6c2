import { playTrials } from '../core/evaluate/trials'
import { World } from '../core/learn/world'
import { greedyPolicy } from '../core/plan/backup'
import { actionValuesAt } from '../core/plan/moment'
import { defaultPlanMethod, planMethod } from '../core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../core/plan/planner'
import type { Model, RowPolicy } from '../core/model/model'
import type { TrialsReply, TrialsRequest } from './protocol'

/** Plays trials of several policies, one after the other. */
const scope = self as unknown as { postMessage(message: TrialsReply): void }

/** Sweeps after which the best policy is given up. */
const SWEEPS = 200_000

self.onmessage = ({ data }: MessageEvent<TrialsRequest>) => {
  const { session, model, contestants, settings, measures } = data
  try {
    const world = new World(model)
    for (const { title, policy } of contestants) {
      const followed = policy ?? bestPolicy(model, settings.discount)
      if (followed)
        scope.postMessage({
          type: 'trials',
          session,
          title,
          policy: followed,
          trials: playTrials(world, followed, settings, measures),
        })
    }
    scope.postMessage({ type: 'finished', session })
  } catch (error) {
    scope.postMessage({
      type: 'failed',
      session,
      message: error instanceof Error ? error.message : String(error),
    })
  }
}

/** A best policy of the model; null where no value is finite. */
function bestPolicy(model: Model, discount: number): RowPolicy | null {
  const planner = planMethod(defaultPlanMethod(model)).create(model, {
    ...PLAN_DEFAULTS,
    discount,
    tolerance: 1e-6,
    sweeps: SWEEPS,
  })
  while (planner.status.outcome === 'running') planner.sweep()
  return planner.status.outcome === 'converged'
    ? greedyPolicy(model.rowStart, actionValuesAt(planner, null, false))
    : null
}
