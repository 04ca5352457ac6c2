import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { capFor } from '../../core/settings/settings'
import type { Study } from './study'

/**
 * Discount and cap belong to the environment: what Plan and Learn took from it follows when it changes there. A number
 * that was set apart by hand stays, and the fields say so.
 */
export function followDocument(
  before: EnvironmentDocument,
  after: EnvironmentDocument,
  { plan, beside, learn }: Pick<Study, 'plan' | 'beside' | 'learn'>,
): void {
  if (before.discount !== after.discount) {
    for (const each of [plan, beside])
      if (each.store.getState().discount === before.discount) each.choose({ discount: after.discount })
    if (learn.store.getState().choice.discount === before.discount) learn.choose({ discount: after.discount })
  }
  if (before.cap !== after.cap && learn.store.getState().choice.cap === capFor(before.cap))
    learn.choose({ cap: capFor(after.cap) })
}
