import { planMethod, type PlanMethodId } from '../../core/plan/plan-methods'
import type { RowPolicy } from '../../core/model/model'

/** Where a policy that is followed comes from: `equiprobable`, `drawn`, `learned` or `written:` and its name. */
export type PolicySource = 'equiprobable' | 'drawn' | 'learned' | `written:${string}`

/** Finds the policy that a source stands for in a model; null for all actions equally often. */
export type PolicyFinder = (source: PolicySource) => RowPolicy | null

/** Whether a policy is being drawn: then strokes on the board and buttons in the column set actions. */
export function isDrawing({
  method,
  source,
}: {
  readonly method: PlanMethodId
  readonly source: PolicySource
}): boolean {
  return planMethod(method).settings.includes('policy') && source === 'drawn'
}
