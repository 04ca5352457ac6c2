import { actionRule, impossibleRule } from './declare-action'
import { chanceRule } from './declare-chance'
import { startRule, policyRule, observeRule } from './declare-episode'
import { sameItems, sameRule } from './declare-same'
import { knobRule, tableRule, stateRule } from './declare-state'
import { measureRule, discountRule, rewardRule, nextRule, endRule, passRule } from './declare-step'
import { spanOf, type Fault } from './place'
import type { Program } from './program'
import { RuleContext } from './rule-context'
import { variableSize, contributions, sizeText, COMBINATION_LIMIT } from './sizes'
import type { Rule, RuleOf } from './syntax'
import type { Variable } from './variables'

/** What becomes of each rule. */
const HANDLERS: { readonly [T in Rule['type']]: (ctx: RuleContext, rule: RuleOf<T>) => void } = {
  knob: knobRule,
  table: tableRule,
  state: stateRule,
  start: startRule,
  action: actionRule,
  chance: chanceRule,
  let: (ctx, rule) =>
    rule.parameters ? ctx.defineFunction(rule) : ctx.define(rule.name, ctx.kept(rule.value, rule.name.text)),
  reward: rewardRule,
  discount: discountRule,
  next: nextRule,
  end: endRule,
  measure: measureRule,
  check: (ctx, rule) =>
    void ctx.checks.push({
      ...spanOf(rule),
      title: rule.title,
      value: ctx.expressions.truth(rule.condition),
    }),
  policy: policyRule,
  observe: observeRule,
  same: sameRule,
  pass: passRule,
  impossible: impossibleRule,
}

/**
 * Checks the rules and turns them into a program, in the order in which they stand: a rule may use what stands above
 * it. Faults are told and the work goes on, so that many are told at once.
 *
 * @param settings  knobs set to another value than the text says
 * @returns the program, or null when there was any fault
 */
export function compileRules(
  rules: readonly Rule[],
  settings: Readonly<Record<string, number>>,
  faults: Fault[],
): Program | null {
  const ctx = new RuleContext(rules, settings, faults)
  const handle = (rule: Rule) => (HANDLERS[rule.type] as (ctx: RuleContext, rule: Rule) => void)(ctx, rule)
  // A start speaks of all variables, wherever they stand.
  for (const rule of rules) if (rule.type !== 'start') handle(rule)
  for (const rule of rules) if (rule.type === 'start') handle(rule)
  const variables = [...ctx.variables.values()]
  for (const variable of variables) ctx.settle(variable)
  refuseMissing(ctx, variables)
  if (faults.length) return null
  return {
    knobs: ctx.knobs,
    words: ctx.words,
    frameSize: ctx.frameSize,
    variables,
    starts: ctx.starts,
    actionSlot: ctx.actionSlot,
    passWord: ctx.passWord,
    levelSlots: [...ctx.levelSlots.values()],
    choices: ctx.choices,
    groups: ctx.groups,
    groupSpans: ctx.groupSpans,
    notes: notesOf(ctx),
    actionSpan: spanOf(ctx.rules.find((rule) => rule.type === 'action')!),
    byState: ctx.byState,
    operations: ctx.operations,
    rewards: ctx.rewards,
    discounts: ctx.discounts,
    chances: ctx.chances,
    endings: ctx.endings,
    endsAfter: ctx.endsAfter,
    measures: ctx.measures,
    checks: ctx.checks,
    policies: ctx.policies,
    observe: ctx.observe,
    observeSpan: ctx.rules.find((rule) => rule.type === 'observe'),
    pass: ctx.pass,
    same: ctx.sameLists.map((rule) => sameItems(rule, variables)),
    treatment: ctx.treatment?.treatment ?? 'forbidden',
    penalty: ctx.penalty,
    nextSpans: variables.flatMap((variable) =>
      variable.dimensions.map(() => ctx.nexts.get(variable.name)?.at(-1)?.span ?? variable),
    ),
  }
}

/** What can be seen from the text alone. */
function notesOf(ctx: RuleContext): Program['notes'] {
  const notes: Program['notes'][number][] = []
  if (ctx.nexts.size === 0)
    notes.push({
      ...spanOf(ctx.rules.find((rule) => rule.type === 'state')!),
      rule: 'nothing-changes',
      cause: 'No line says what a variable will be, so that every state stays as it is.',
      remedy: 'Add a line such as: next left = left - sold.',
    })
  for (const rule of ctx.rules)
    if (rule.type === 'chance' && !ctx.read.has(rule.name.text))
      notes.push({
        ...spanOf(rule.name),
        rule: 'chance-not-read',
        about: [rule.name.text],
        cause: `Nothing reads the chance ${rule.name.text}, so that how it falls makes no difference.`,
        remedy: 'Use it in a rule, or leave it out: it multiplies the outcomes that are worked out.',
      })
  return notes
}

function refuseMissing(ctx: RuleContext, variables: readonly Variable[]): void {
  const kinds = new Set(ctx.rules.map((rule) => rule.type))
  const end = ctx.rules.at(-1)?.to ?? 0
  const place = { from: end, to: end }
  // A faulty line of that kind may be what is missing.
  if (ctx.faults.length) return
  if (!kinds.has('state'))
    ctx.expressions.fault(
      place,
      'There is no state variable.',
      'Add a line such as: state left from 0 to 12.',
    )
  if (!kinds.has('action'))
    ctx.expressions.fault(place, 'There is no action.', 'Add a line such as: action wait.')
  if (kinds.has('state') && !kinds.has('start'))
    ctx.expressions.fault(
      place,
      'There is no start.',
      `Add: start ${variables.map(({ name, dimensions }) => `${name} = ${dimensions[0].texts[0]}`).join(', ')}.`,
    )
  refuseCombinations(ctx, variables)
}

function refuseCombinations(ctx: RuleContext, variables: readonly Variable[]): void {
  const sizes = variables.map(variableSize)
  const total = sizes.reduce((product, size) => product * size, 1)
  if (total <= COMBINATION_LIMIT) return
  const largest = variables[sizes.indexOf(Math.max(...sizes))]
  ctx.expressions.fault(
    largest,
    `The variables have ${sizeText(total)} combinations: ${contributions(variables)}. Up to ${sizeText(COMBINATION_LIMIT)} are looked through.`,
    `Shrink ${largest.name} first.`,
  )
}
