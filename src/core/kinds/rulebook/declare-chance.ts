import { LIST_LIMIT } from './declare-state'
import { DISTRIBUTIONS, isPmfFault, OUTCOME_LIMIT, type Cut } from './distributions'
import { nearestName, spanOf } from './place'
import type { ChanceStep } from './program'
import { type RuleContext, tidy } from './rule-context'
import type { Distribution, RuleOf } from './syntax'
import { joinTypes, numberType, slotValue, TRUTH, UNKNOWN, type Scalar, type ScalarType } from './values'

export function chanceRule(ctx: RuleContext, rule: RuleOf<'chance'>): void {
  const { name, distribution } = rule
  const length = rule.length ? ctx.expressions.constant(rule.length, 1) : 1
  if (!(Number.isInteger(length) && length >= 1 && length <= LIST_LIMIT)) {
    ctx.expressions.fault(rule.length!, `The list has ${length} items.`, `Use 1 to ${LIST_LIMIT}.`)
    ctx.values.set(name.text, UNKNOWN)
    return
  }
  const drawn = drawOf(ctx, distribution)
  const items: Scalar[] = []
  for (let i = 0; i < length && drawn; i++) {
    const slot = ctx.slots(1)
    const { type } = drawn
    ctx.chances.push({
      ...spanOf(distribution),
      name: rule.length ? `${name.text}[${i + 1}]` : name.text,
      slot,
      draw: drawn.draw,
      write: (value) => writeValue(ctx, type, value),
    })
    ctx.operations.push([])
    ctx.rewards.push([])
    items.push(slotValue(slot, type, ctx.chances.length))
  }
  ctx.define(name, !drawn ? UNKNOWN : rule.length ? { items } : items[0])
}

function writeValue(ctx: RuleContext, type: ScalarType, value: number): string {
  if (type.kind === 'word') return ctx.words.texts[value]
  if (type.kind === 'truth') return value ? 'yes' : 'no'
  return String(value)
}

function drawOf(
  ctx: RuleContext,
  distribution: Distribution,
): { draw: ChanceStep['draw']; type: ScalarType } | undefined {
  const { callee } = distribution
  const span = spanOf(distribution)
  if (callee.text === 'pick') return pickOf(ctx, distribution)
  const kind = Object.hasOwn(DISTRIBUTIONS, callee.text) ? DISTRIBUTIONS[callee.text] : undefined
  if (!kind) {
    const known = [...Object.keys(DISTRIBUTIONS), 'pick']
    const meant = nearestName(callee.text, known)
    ctx.expressions.fault(
      callee,
      `There is no distribution “${callee.text}”.`,
      meant ? `Did you mean “${meant}”?` : `The distributions are ${known.join(', ')}.`,
    )
    return undefined
  }
  if (distribution.cases.length || distribution.args.length !== kind.parameters.length) {
    const comma = decimalComma(distribution)
    ctx.expressions.fault(
      span,
      `${callee.text} takes the ${kind.parameters.join(' and the ')}.`,
      comma ? `Write numbers with a point: ${comma}.` : `Write ${kind.form}.`,
    )
    return undefined
  }
  const parameters = distribution.args.map((arg) => ctx.expressions.number(arg))
  const cut = cutOf(ctx, distribution, kind.cut)
  if (!cut || parameters.some(({ type }) => type.kind === 'unknown')) return undefined
  const lows = parameters.map(({ type }) => (type.kind === 'number' ? type.low : 0))
  const highs = parameters.map(({ type }) => (type.kind === 'number' ? type.high : 0))
  if (parameters.every(({ constant }) => constant !== undefined)) {
    const pmf = kind.make(
      parameters.map(({ constant }) => constant!),
      cut,
    )
    if (isPmfFault(pmf)) {
      ctx.expressions.fault(span, pmf.cause, pmf.remedy)
      return undefined
    }
  }
  const [low, high] = kind.bounds(lows, highs)
  const type =
    kind.result === 'truth'
      ? TRUTH
      : numberType(true, Math.max(low, cut.low ?? low), Math.min(high, cut.high ?? high))
  return { draw: { type: 'distribution', kind, parameters, cut }, type }
}

/** Two whole numbers with nothing but a comma between them, as in coin(0,5); undefined where there are none. */
function decimalComma({ args, cases }: Distribution): string | undefined {
  const numbers = [...args, ...cases.flatMap(({ chance }) => chance ?? [])].sort((x, y) => x.from - y.from)
  for (let i = 0; i + 1 < numbers.length; i++) {
    const [whole, part] = [numbers[i], numbers[i + 1]]
    if (whole.type === 'number' && part.type === 'number' && whole.to + 1 === part.from)
      return `${whole.value}.${part.value}`
  }
  return undefined
}

function cutOf(
  ctx: RuleContext,
  distribution: Distribution,
  allowed: 'none' | 'allowed' | 'needed',
): Cut | undefined {
  const { low, high, callee } = distribution
  if (allowed === 'needed' && !low) {
    ctx.expressions.fault(distribution, `${callee.text} needs its ends.`, 'Write from 0 to 40 after it.')
    return undefined
  }
  if (allowed === 'none' && high) {
    ctx.expressions.fault(high, `${callee.text} cannot be cut off.`, 'Leave out what comes after ).')
    return undefined
  }
  const cut = {
    low: low && ctx.expressions.constant(low, 0),
    high: high && ctx.expressions.constant(high, 0),
  }
  const from = cut.low ?? 0
  const to = cut.high ?? from
  if (!(Number.isInteger(from) && Number.isInteger(to) && from <= to && to - from < OUTCOME_LIMIT)) {
    ctx.expressions.fault(
      high ?? distribution,
      `It is cut off to ${from} … ${to}.`,
      `Use whole numbers, the lower first, at most ${OUTCOME_LIMIT} of them.`,
    )
    return undefined
  }
  return cut
}

function pickOf(
  ctx: RuleContext,
  distribution: Distribution,
): { draw: ChanceStep['draw']; type: ScalarType } | undefined {
  const { cases, args, high } = distribution
  if (args.length || !cases.length || high) {
    const comma = decimalComma(distribution)
    ctx.expressions.fault(
      distribution,
      'pick names its values and their chances.',
      comma ? `Write numbers with a point: ${comma}.` : 'Write pick(dry: 0.3, damp: 0.5, wet: rest).',
    )
    return undefined
  }
  if (cases.filter(({ chance }) => chance === null).length > 1) {
    ctx.expressions.fault(distribution, 'Two of the values take the rest.', 'Give one of them a chance.')
    return undefined
  }
  const values = cases.map(({ value }) => ctx.expressions.scalar(value))
  const chances = cases.map(({ chance }) => chance && ctx.expressions.number(chance))
  const type = values
    .map((value) => value.type)
    .reduce<ScalarType | undefined>((one, other) => one && joinTypes(one, other), { kind: 'unknown' })
  if (!type) {
    ctx.expressions.fault(
      distribution,
      'The values are of different kinds.',
      'Use numbers, or words, or yes and no.',
    )
    return undefined
  }
  if (type.kind === 'unknown') return undefined
  const total = chances.reduce((sum, chance) => (chance ? sum + (chance.constant ?? NaN) : sum), 0)
  const open = chances.includes(null)
  if (Number.isFinite(total) && (open ? total > 1 + 1e-9 : Math.abs(total - 1) > 1e-9)) {
    ctx.expressions.fault(
      distribution,
      `The chances sum to ${tidy(total)}.`,
      open ? 'Leave something for the rest.' : 'Make them sum to 1, or write rest for one of them.',
    )
    return undefined
  }
  return { draw: { type: 'pick', values, chances }, type }
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
