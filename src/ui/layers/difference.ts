import type { Model } from '../../core/model/model'
import { comparePlans, type HeldPlan, type PlanDifference } from '../../core/plan/difference'
import type { PlanFrame } from '../../hosts/protocol/plan'
import type { LayerView } from './layer'

const TITLE = 'value now minus value kept'

/** What is different from a plan that was held: in place of the values, with the needles of that plan. */
export const differenceLayer: LayerView = {
  title: 'Difference',
  when: (source, view) => source.of === 'plan' && source.held !== null && view !== 'horizon',
  lay(shown, source) {
    if (source.of !== 'plan' || !source.held) return shown
    const { model, frame, held } = source
    const difference = differenceOf(model, frame, held)
    return {
      ...shown,
      overlay: {
        title: TITLE,
        values: difference.values,
        rowValues: frame.rowValues,
        policy: frame.policy,
        was: difference.policy,
        turned: difference.turned,
      },
      titles: { ...shown.titles, values: TITLE },
    }
  },
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
