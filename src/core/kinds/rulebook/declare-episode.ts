import { constantItems, constantPmf } from './declare-chance'
import { spanOf, nearestName, type Span } from './place'
import type { StartRule } from './program'
import type { RuleContext } from './rule-context'
import type { RuleOf } from './syntax'
import { BY_STATE, depthOf, isList, type Scalar } from './values'

export function startRule(ctx: RuleContext, rule: RuleOf<'start'>): void {
  const parts: StartRule['parts'][number][] = []
  const said = new Set<string>()
  for (const assignment of rule.assignments) {
    const { name } = assignment
    const variable = ctx.variables.get(name.text)
    if (!variable) {
      ctx.unknownVariable(name)
      continue
    }
    if (said.has(name.text)) ctx.expressions.fault(name, `${name.text} stands here twice.`, 'Leave one out.')
    said.add(name.text)
    if ('distribution' in assignment) {
      const { distribution } = assignment
      const drawn = variable.isList
        ? constantItems(ctx, distribution, variable.dimensions.length)
        : [constantPmf(ctx, distribution)]
      drawn?.forEach((pmf, i) => {
        if (pmf && ctx.fits(variable.dimensions[i], pmf.type, distribution))
          parts.push({ slot: variable.dimensions[i].slot, ...pmf })
      })
      continue
    }
    const value = ctx.expressions.value(assignment.value)
    const items = ctx.spread(value, variable, assignment.value)
    items.forEach((item, i) => {
      const dimension = variable.dimensions[i]
      if (item.type.kind === 'unknown') return
      if (item.constant === undefined)
        ctx.expressions.fault(
          assignment.value,
          'This must be known before anything runs.',
          'Use numbers, words and knobs; draw with ~.',
        )
      else if (ctx.fits(dimension, item.type, assignment.value))
        parts.push({ slot: dimension.slot, values: [item.constant], chances: [1] })
    })
  }
  const missing = [...ctx.declaredVariables()].filter((name) => !said.has(name))
  if (missing.length)
    ctx.expressions.fault(
      { from: rule.from, to: rule.from + 5 },
      `The start does not say what ${missing.join(', ')} ${missing.length > 1 ? 'are' : 'is'}.`,
      `Add ${missing.map((name) => `${name} = …`).join(', ')}.`,
    )
  const weight = rule.weight ? ctx.expressions.constant(rule.weight, 1) : 1
  if (!(weight > 0 && weight < 1e9))
    ctx.expressions.fault(rule.weight!, `The weight is ${weight}.`, 'Use a number above 0.')
  const scramble = rule.scramble ? ctx.expressions.constant(rule.scramble, 0) : 0
  if (!(Number.isInteger(scramble) && scramble >= 0 && scramble <= 100))
    ctx.expressions.fault(
      rule.scramble!,
      `It says ${scramble} random actions.`,
      'Use a whole number from 0 to 100.',
    )
  ctx.starts.push({ ...spanOf(rule), parts, weight, scramble })
}

export function policyRule(ctx: RuleContext, rule: RuleOf<'policy'>): void {
  const choices = rule.choices.flatMap(({ action, level, parts, when }) => {
    const group = ctx.groups.indexOf(action.text)
    if (group < 0) {
      const meant = nearestName(action.text, ctx.groups)
      ctx.expressions.fault(
        action,
        `There is no action “${action.text}”.`,
        meant ? `Did you mean “${meant}”?` : `The actions are ${ctx.groups.join(', ') || 'declared above'}.`,
      )
      return []
    }
    const levels = ctx.choices.filter((choice) => choice.group === group)
    const levelled = ctx.partNames[group][0] === action.text
    if (levelled !== (level !== undefined)) {
      ctx.expressions.fault(
        action,
        levelled ? `“${action.text}” needs a level.` : `“${action.text}” has no levels.`,
        levelled ? `Write ${levels[0]?.label ?? action.text}.` : `Write ${action.text} alone.`,
      )
      return []
    }
    const byState = (value: Scalar, span: Span) =>
      value.depth > BY_STATE
        ? ctx.expressions.fault(
            span,
            'A policy decides from the state alone.',
            'Use state variables, knobs and tables.',
          )
        : value
    const wanted = level ? [{ part: 0, value: byState(ctx.expressions.scalar(level), level) }] : []
    const names = ctx.partNames[group].slice(levelled ? 1 : 0)
    for (const { name, value } of parts) {
      const part = names.indexOf(name.text)
      if (part >= 0) {
        const given = byState(ctx.expressions.scalar(value), value)
        wanted.push({ part: part + (levelled ? 1 : 0), value: given })
        ctx.refuseOtherKind(name.text, given, value)
      } else
        ctx.expressions.fault(
          name,
          `“${action.text}” has no part “${name.text}”.`,
          names.length ? `Its parts are ${names.join(', ')}.` : `Write ${levels[0]?.label ?? action.text}.`,
        )
    }
    return [{ group, wanted, when: when && byState(ctx.expressions.truth(when), when) }]
  })
  if (ctx.policies.some(({ title }) => title === rule.title))
    ctx.expressions.fault(rule, `There are two policies “${rule.title}”.`, 'Name them apart.')
  ctx.policies.push({ ...spanOf(rule), title: rule.title, choices })
}

export function observeRule(ctx: RuleContext, rule: RuleOf<'observe'>): void {
  if (ctx.observe) {
    ctx.expressions.fault(rule, 'There is an observe line already.', 'Write all that is seen in one line.')
    return
  }
  ctx.observe = rule.items.flatMap(({ value }) => {
    const seen = ctx.expressions.value(value)
    if (depthOf(seen) > BY_STATE)
      ctx.expressions.fault(
        value,
        'What is seen depends on the state alone.',
        'Use state variables, knobs and tables.',
      )
    return isList(seen) ? seen.items : [seen]
  })
}
