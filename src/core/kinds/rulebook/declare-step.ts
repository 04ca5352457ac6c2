import { spanOf, type Span } from './place'
import type { NextPart, RuleContext } from './rule-context'
import type { Expression, RuleOf } from './syntax'
import { BY_ACTION, BY_STATE, CONSTANT, derived, isList, numberType, type Scalar } from './values'
import type { Variable } from './variables'

export function measureRule(ctx: RuleContext, rule: RuleOf<'measure'>): void {
  const value = ctx.kept(rule.value, rule.name.text)
  ctx.define(rule.name, value)
  ctx.measures.push({
    ...spanOf(rule),
    title: rule.name.text,
    value: isList(value) ? ctx.expressions.asNumber(value, rule.value) : countable(ctx, value, rule.value),
  })
}

/** A number, or a truth that counts as 1 or 0. */
function countable(ctx: RuleContext, value: Scalar, span: Span): Scalar {
  return value.type.kind === 'truth'
    ? derived(numberType(true, 0, 1), [value], value.run)
    : ctx.expressions.asNumber(value, span)
}

export function rewardRule(ctx: RuleContext, rule: RuleOf<'reward'>): void {
  const value = ctx.expressions.number(rule.value)
  const when = rule.when && ctx.expressions.truth(rule.when)
  const depth = Math.max(BY_ACTION, value.depth, when?.depth ?? CONSTANT)
  ctx.rewards[depth].push({ ...spanOf(rule.value), value, when })
}

export function discountRule(ctx: RuleContext, rule: RuleOf<'discount'>): void {
  const value = ctx.expressions.number(rule.value)
  const when = rule.when && ctx.expressions.truth(rule.when)
  const { type } = value
  if (type.kind === 'number' && (type.high < 0 || type.low > 1))
    ctx.expressions.fault(
      rule.value,
      `The discount is ${type.low === type.high ? type.low : `${type.low} to ${type.high}`}.`,
      'Use a number from 0 to 1, such as exp(-0.01 * minutes).',
    )
  ctx.discounts.push({ ...spanOf(rule.value), value, when })
  refuseTwoClocks(ctx, rule)
}

/** Steps that pass are discounted by one number, or as all others are. */
function refuseTwoClocks(ctx: RuleContext, span: Span): void {
  if (ctx.discounts.length && ctx.pass?.discounted)
    ctx.expressions.fault(
      span,
      'It is said twice how steps that pass by themselves are discounted: “discounted” and “discount”.',
      'Leave “discounted …” out: a discount line counts for those steps as well.',
    )
}

export function nextRule(ctx: RuleContext, rule: RuleOf<'next'>): void {
  const { name } = rule
  const variable = ctx.variables.get(name.text)
  if (!variable) {
    ctx.unknownVariable(name)
    return
  }
  if (ctx.settled.has(name.text)) {
    ctx.expressions.fault(
      name,
      `What ${name.text} will be was used above already.`,
      `Put all its lines above the first “next ${name.text}” that is read.`,
    )
    return
  }
  const parts = ctx.nexts.get(name.text) ?? []
  if (variable.dimensions.every((_, i) => parts.some((part) => settlesAlways(part, i)))) {
    ctx.expressions.fault(
      name,
      `This line is never reached: a line above says what ${name.text} will be, whatever happens.`,
      'Add “when …” to that line, or leave one of them out.',
    )
    return
  }
  const part = rule.item ? nextItem(ctx, variable, rule.item, rule) : nextWhole(ctx, variable, rule)
  const own = (part.place?.constant ?? 0) - 1
  if (own >= 0 && parts.some((each) => settlesAlways(each, own)))
    ctx.expressions.fault(
      rule.item!,
      `This line is never reached: a line above says what ${name.text}[${own + 1}] will be, whatever happens.`,
      'Add “when …” to that line, or leave one of them out.',
    )
  ctx.nexts.set(name.text, [...parts, part])
}

/** Whether a line says in every step what an item will be. */
function settlesAlways({ place, when }: NextPart, i: number): boolean {
  return !when && (!place || place.constant === i + 1)
}

function nextWhole(ctx: RuleContext, variable: Variable, rule: RuleOf<'next'>): NextPart {
  const items = ctx.spread(ctx.expressions.value(rule.value), variable, rule.value)
  items.forEach((item, i) => ctx.fits(variable.dimensions[i], item.type, rule.value))
  const when = rule.when && ctx.expressions.truth(rule.when)
  return { items, when, span: spanOf(rule.value) }
}

/** One item of a list: the line holds for the item at its place alone. */
function nextItem(ctx: RuleContext, variable: Variable, item: Expression, rule: RuleOf<'next'>): NextPart {
  const { dimensions, isList: listed, name } = variable
  if (!listed)
    ctx.expressions.fault(rule.name, `${name} is no list.`, `Write “next ${name} = …”, without the […].`)
  const place = ctx.expressions.place(item, dimensions.length)
  const value = ctx.expressions.scalar(rule.value)
  const reached = dimensions.filter((_, i) => place.constant === undefined || place.constant === i + 1)
  if (reached[0]) ctx.fits(reached[0], value.type, rule.value)
  const when = rule.when && ctx.expressions.truth(rule.when)
  return { items: dimensions.map(() => value), place, when, span: spanOf(rule.value) }
}

export function endRule(ctx: RuleContext, rule: RuleOf<'end'>): void {
  if (rule.at === 'when') {
    const condition = ctx.stateTruth(rule.condition, BY_STATE)
    ctx.endings.push({ condition, span: spanOf(rule) })
    return
  }
  const title = rule.reason ?? `ended ${ctx.endsAfter.length + 1}`
  ctx.endsAfter.push({ ...spanOf(rule), title, value: ctx.expressions.truth(rule.condition) })
}

export function passRule(ctx: RuleContext, rule: RuleOf<'pass'>): void {
  if (ctx.pass) {
    ctx.expressions.fault(rule, 'There is a pass line already.', 'Join the conditions with or.')
    return
  }
  const discount = rule.discount ? ctx.expressions.constant(rule.discount, 1) : 1
  if (!(discount >= 0 && discount <= 1))
    ctx.expressions.fault(rule.discount!, `The discount is ${discount}.`, 'Use a number from 0 to 1.')
  ctx.pass = {
    condition: ctx.stateTruth(rule.condition, BY_STATE),
    discount,
    discounted: rule.discount !== undefined,
    span: spanOf(rule),
  }
  refuseTwoClocks(ctx, rule)
}
