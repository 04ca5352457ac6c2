import { DISTRIBUTIONS, isPmfFault, OUTCOME_LIMIT, type Cut } from './distributions'
import { nearestName, spanOf, type Span } from './place'
import type { ChanceStep } from './program'
import { type RuleContext, tidy } from './rule-context'
import type { Distribution, Expression } from './syntax'
import {
  constantNumber,
  constantWord,
  isList,
  joinTypes,
  numberType,
  TRUTH,
  typeName,
  type Scalar,
  type ScalarType,
} from './values'

interface Drawn {
  readonly draw: ChanceStep['draw']
  readonly type: ScalarType
}

/** What a distribution draws; undefined after a fault. */
export function drawOf(ctx: RuleContext, distribution: Distribution): Drawn | undefined {
  const { callee } = distribution
  const span = spanOf(distribution)
  if (distribution.table) return tableDraw(ctx, distribution.table)
  if (callee.text === 'pick') return pickOf(ctx, distribution)
  if (callee.text === 'sample') return sampleOf(ctx, distribution)
  const kind = Object.hasOwn(DISTRIBUTIONS, callee.text) ? DISTRIBUTIONS[callee.text] : undefined
  if (!kind) {
    const known = [...Object.keys(DISTRIBUTIONS), 'pick', 'sample', 'table']
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

function pickOf(ctx: RuleContext, distribution: Distribution): Drawn | undefined {
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
  return pickAmong(
    ctx,
    distribution,
    cases.map(({ value }) => ctx.expressions.scalar(value)),
    cases.map(({ chance }) => chance && ctx.expressions.number(chance)),
  )
}

/** @param chances  null for the one that takes the rest */
function pickAmong(
  ctx: RuleContext,
  span: Span,
  values: readonly Scalar[],
  chances: readonly (Scalar | null)[],
): Drawn | undefined {
  const type = typeOfAll(ctx, span, values)
  if (!type || chances.some((chance) => chance?.type.kind === 'unknown')) return undefined
  const total = chances.reduce((sum, chance) => (chance ? sum + (chance.constant ?? NaN) : sum), 0)
  const open = chances.includes(null)
  if (Number.isFinite(total) && (open ? total > 1 + 1e-9 : Math.abs(total - 1) > 1e-9)) {
    ctx.expressions.fault(
      span,
      `The chances sum to ${tidy(total)}.`,
      open ? 'Leave something for the rest.' : 'Make them sum to 1, or write rest for one of them.',
    )
    return undefined
  }
  return { draw: { type: 'pick', values, chances }, type }
}

/** The type of all outcomes; undefined after a fault. */
function typeOfAll(ctx: RuleContext, span: Span, values: readonly Scalar[]): ScalarType | undefined {
  const type = values
    .map((value) => value.type)
    .reduce<ScalarType | undefined>((one, other) => one && joinTypes(one, other), { kind: 'unknown' })
  if (!type)
    ctx.expressions.fault(span, 'The values are of different kinds.', 'Use numbers, or words, or yes and no.')
  return type?.kind === 'unknown' ? undefined : type
}

/** `table calls[part]`: the items of a list are the chances of its places, or of what they are named by. */
function tableDraw(ctx: RuleContext, expression: Expression): Drawn | undefined {
  const list = ctx.expressions.value(expression)
  if (!isList(list)) {
    if (list.type.kind !== 'unknown')
      ctx.expressions.fault(
        expression,
        `This is ${typeName(list)}, not a list of chances.`,
        'Give a list or a row of a table: table [0.2, 0.8], table calls[part].',
      )
    return undefined
  }
  const values = list.items.map((_, i) =>
    list.words ? constantWord(list.words[i]) : constantNumber(list.places?.[i] ?? (list.first ?? 1) + i),
  )
  return pickAmong(
    ctx,
    expression,
    values,
    list.items.map((item) => ctx.expressions.asNumber(item, expression)),
  )
}

/** `sample(3: 12, 4: 20)`: what was counted, each value as often as it came up. */
function sampleOf(ctx: RuleContext, distribution: Distribution): Drawn | undefined {
  const { cases, args, high } = distribution
  const counted = [...cases, ...args.map((value) => ({ value, chance: undefined }))]
  if (!counted.length || high || cases.some(({ chance }) => chance === null)) {
    ctx.expressions.fault(
      distribution,
      'sample takes values, each with how often it was counted.',
      'Write sample(3: 12, 4: 20), or the values as they came: sample(3, 4, 4, 3).',
    )
    return undefined
  }
  const scalars = counted.map(({ value }) => ctx.expressions.scalar(value))
  const type = typeOfAll(ctx, distribution, scalars)
  if (!type || scalars.some((scalar) => scalar.type.kind === 'unknown')) return undefined
  const counts = new Map<number, { value: Scalar; count: number }>()
  let total = 0
  for (const [i, { value, chance }] of counted.entries()) {
    const scalar = scalars[i]
    const count = chance ? ctx.expressions.constant(chance, 1) : 1
    const key = scalar.constant
    if (key === undefined || !(count >= 0 && count <= 1e12)) {
      ctx.expressions.fault(
        key === undefined ? value : chance!,
        key === undefined ? 'This must be known before anything runs.' : `The count is ${count}.`,
        key === undefined ? 'Use numbers, words and knobs.' : 'Use a number from 0.',
      )
      return undefined
    }
    counts.set(key, { value: scalar, count: (counts.get(key)?.count ?? 0) + count })
    total += count
  }
  const values = [...counts.values()].filter(({ count }) => count > 0)
  if (!values.length || values.length > OUTCOME_LIMIT) {
    ctx.expressions.fault(
      distribution,
      values.length ? `There are ${values.length} different values.` : 'Nothing was counted.',
      values.length ? `Use at most ${OUTCOME_LIMIT}: round them.` : 'Give one value a count above 0.',
    )
    return undefined
  }
  return {
    draw: {
      type: 'pick',
      values: values.map(({ value }) => value),
      chances: values.map(({ count }) => constantNumber(count / total)),
    },
    type,
  }
}
