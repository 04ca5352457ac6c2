import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import { CheckContext } from './context'
import { bySeverity, MARKED, type CheckReport, type Finding, type LeftOut } from './finding'
import type { Found, Verdict } from './verdict'
import { CHECK_RULE_IDS, type CheckRuleId } from './rule-ids'
import { checkRule } from './rules/rules'
import { storyOf, walkSteps } from './walk-steps'

/** Told after every rule: how many of how many are done. */
export type RulesDone = (done: number, of: number) => void

/** Looks for everything in every state that an episode can reach. */
export function checkEnvironmentModel(
  document: EnvironmentDocument,
  compiled: Compiled,
  tell: RulesDone = () => {},
): CheckReport {
  const began = performance.now()
  const judged = new Map<CheckRuleId, Verdict>()
  const judge = (rule: CheckRuleId): Verdict => {
    if (!judged.has(rule)) judged.set(rule, checkRule(rule).judge(context))
    return judged.get(rule)!
  }
  const context = new CheckContext(document, compiled, judge)
  const findings: Finding[] = []
  const proved: { rule: CheckRuleId; sentence: string }[] = []
  const omitted: LeftOut[] = []
  CHECK_RULE_IDS.forEach((rule, i) => {
    const { found, holds, leftOut } = judge(rule)
    findings.push(...found.map((each) => findingOf(rule, each, context)))
    if (holds) proved.push({ rule, sentence: holds })
    if (leftOut) omitted.push({ rule, why: leftOut })
    tell(i + 1, CHECK_RULE_IDS.length)
  })
  return {
    states: compiled.model.states,
    rows: compiled.model.rows,
    findings: bySeverity(findings),
    proved,
    leftOut: omitted,
    seconds: (performance.now() - began) / 1000,
  }
}

function findingOf(rule: CheckRuleId, found: Found, { model, happenings, discount }: CheckContext): Finding {
  const {
    severity = checkRule(rule).severity,
    where,
    cause,
    remedy = '',
    states = [],
    cells = [],
    span,
    walk = null,
  } = found
  return {
    rule,
    severity,
    where,
    cause,
    remedy,
    states: Array.from(states).slice(0, MARKED),
    cells: cells.slice(0, MARKED),
    ...(span ? { span } : {}),
    path: walk ? storyOf(model, walkSteps(model, happenings, walk, discount)) : [],
    walk,
    proof: { kind: 'proved', states: model.states },
  }
}
