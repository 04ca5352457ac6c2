import type { Problem, ProblemRule } from '../problem'
import type { CheckReport } from './finding'
import type { CheckRuleId } from './rule-ids'

/** The rule that is broken by an environment of which no model can be made. */
const BREAKS: Readonly<Record<ProblemRule, CheckRuleId>> = {
  bounds: 'bounds',
  probabilities: 'probabilities',
  'no-action': 'no-action',
}

/** What is wrong with an environment of which no model can be made, as findings. */
export function checkProblems(problems: readonly Problem[]): CheckReport {
  return {
    states: 0,
    rows: 0,
    findings: problems.map(({ place, cause, remedy, span, path = [], breaks }) => ({
      rule: breaks ? BREAKS[breaks] : 'compiles',
      severity: 'error',
      where: place,
      cause,
      remedy,
      states: [],
      cells: [],
      ...(span ? { span } : {}),
      path,
      walk: null,
      proof: { kind: 'proved', states: 0 },
    })),
    proved: [],
    leftOut: [],
    seconds: 0,
  }
}
