import { inspectionOf } from '../../kinds/inspections'
import type { CheckRule } from './rule'
import { NOTHING } from '../verdict'

/** What is wrong with an environment that has no model: these are found while its states are worked out. */
function compiling(title: string, proves: string): CheckRule {
  return { title, severity: 'error', proves, judge: () => ({ found: [], holds: proves }) }
}

export const compiles: CheckRule = {
  title: 'something that is no environment',
  severity: 'error',
  proves: 'The document is an environment: a model can be made of it.',
  judge: () => NOTHING,
}

export const bounds: CheckRule = {
  ...compiling('a variable that leaves its range', 'No variable leaves its range.'),
  judge: ({ document }) =>
    inspectionOf(document).hasRanges ? { found: [], holds: 'No variable leaves its range.' } : NOTHING,
}

export const probabilities = compiling(
  'chances that do not sum to 1',
  'The chances of every state and action sum to 1.',
)

export const noAction = compiling(
  'a state with no possible action',
  'Every state that is no ending has a possible action.',
)
