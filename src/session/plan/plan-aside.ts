import type { Model } from '../../core/model/model'
import { PLAN_DEFAULTS } from '../../core/plan/plan-settings'
import { startPlanWorker } from '../../hosts/browser/launcher'
import type { NamedPlan } from './plan-session'

/** Plans a model to its end in a worker of its own, to compare with. Rejects with a sentence where it has no answer. */
export function planAside(
  model: Model,
  discount: number,
  tolerance: number,
  title: string,
): Promise<NamedPlan> {
  const connection = startPlanWorker()
  return new Promise<NamedPlan>((resolve, reject) => {
    connection.listen((reply) => {
      if (reply.type === 'failed') return reject(new Error(reply.message))
      if (reply.type !== 'frame') return
      if (!reply.finished) return connection.post({ type: 'shown' })
      if (reply.status.outcome === 'converged')
        resolve({ model, values: reply.values, policy: reply.policy, title })
      else reject(new Error('It has no finite values at this discount.'))
    })
    connection.post({
      type: 'open',
      session: 1,
      model,
      method: 'modified-policy-iteration-in-place',
      settings: { ...PLAN_DEFAULTS, discount, tolerance },
      follow: true,
    })
  }).finally(() => connection.close())
}
