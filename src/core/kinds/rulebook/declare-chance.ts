import { LIST_LIMIT } from './declare-state'
import { isPmfFault } from './distributions'
import { drawOf } from './draws'
import { spanOf } from './place'
import type { RuleContext } from './rule-context'
import { constantNumber, slotValue, UNKNOWN, type Scalar, type ScalarType } from './values'
import type { Distribution, RuleOf } from './syntax'

/** The name that stands for the place of the item that is drawn, in the distribution of a list. */
export const ITEM = 'item'

export function chanceRule(ctx: RuleContext, rule: RuleOf<'chance'>): void {
  const { name, distribution } = rule
  const length = rule.length ? ctx.expressions.constant(rule.length, 1) : 1
  if (!(Number.isInteger(length) && length >= 1 && length <= LIST_LIMIT)) {
    ctx.expressions.fault(rule.length!, `The list has ${length} items.`, `Use 1 to ${LIST_LIMIT}.`)
    ctx.values.set(name.text, UNKNOWN)
    return
  }
  const items: Scalar[] = []
  for (let i = 0; i < length; i++) {
    const drawn = rule.length
      ? drawItem(ctx, i, () => drawOf(ctx, distribution), { name: name.text, items })
      : drawOf(ctx, distribution)
    if (!drawn) {
      ctx.define(name, UNKNOWN)
      return
    }
    const slot = ctx.slots(1)
    const { draw, type } = drawn
    ctx.chances.push({
      ...spanOf(distribution),
      name: rule.length ? `${name.text}[${i + 1}]` : name.text,
      slot,
      draw,
      write: (value) => writeValue(ctx, type, value),
    })
    ctx.operations.push([])
    ctx.rewards.push([])
    items.push(slotValue(slot, type, ctx.chances.length))
  }
  ctx.define(name, rule.length ? { items } : items[0])
}

/** What is drawn for one item of a list: its place is known there, and so are the items drawn before it. */
function drawItem<T>(
  ctx: RuleContext,
  i: number,
  draw: () => T,
  before?: { readonly name: string; readonly items: readonly Scalar[] },
): T {
  return ctx.expressions.within(
    [
      // A rulebook may have a name like that of its own.
      ...(ctx.declared.has(ITEM) ? [] : [{ name: ITEM, value: constantNumber(i + 1) }]),
      ...(before ? [{ name: before.name, value: { items: [...before.items] } }] : []),
    ],
    draw,
  )
}

function writeValue(ctx: RuleContext, type: ScalarType, value: number): string {
  if (type.kind === 'word') return ctx.words.texts[value]
  if (type.kind === 'truth') return value ? 'yes' : 'no'
  return String(value)
}

/** What each of so many items of a list may be, drawn at a start; undefined after a fault. */
export function constantItems(ctx: RuleContext, distribution: Distribution, length: number) {
  const items = []
  for (let i = 0; i < length; i++) {
    const pmf = drawItem(ctx, i, () => constantPmf(ctx, distribution))
    if (!pmf) return undefined
    items.push(pmf)
  }
  return items
}

/** A draw that depends on nothing, for a start. */
export function constantPmf(ctx: RuleContext, distribution: Distribution) {
  const drawn = drawOf(ctx, distribution)
  if (!drawn) return undefined
  const { draw, type } = drawn
  const inputs =
    draw.type === 'pick'
      ? [...draw.values, ...draw.chances.filter((chance) => chance !== null)]
      : draw.parameters
  if (inputs.some(({ constant }) => constant === undefined)) {
    ctx.expressions.fault(
      distribution,
      'A start must be known before anything runs.',
      'Use numbers and knobs.',
    )
    return undefined
  }
  if (draw.type === 'distribution') {
    const pmf = draw.kind.make(
      draw.parameters.map(({ constant }) => constant!),
      draw.cut,
    )
    return isPmfFault(pmf) ? undefined : { values: pmf.values, chances: pmf.chances, type }
  }
  const stated = draw.chances.reduce((sum, chance) => sum + (chance?.constant ?? 0), 0)
  return {
    values: draw.values.map(({ constant }) => constant!),
    chances: draw.chances.map((chance) => chance?.constant ?? 1 - stated),
    type,
  }
}
