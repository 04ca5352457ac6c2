import { spanOf, type Span } from './place'
import { type RuleContext, tidy } from './rule-context'
import type { Domain, Expression, RuleOf } from './syntax'
import { BY_STATE, constantNumber, isList, slotValue, typeName, UNKNOWN, type ListValue } from './values'
import { bucketWidth, dimensionType, type Dimension } from './variables'

/** Items of a list, and values of a variable, at the most. */
export const LIST_LIMIT = 40
const SIZE_LIMIT = 100_000

export function knobRule(ctx: RuleContext, rule: RuleOf<'knob'>): void {
  const [standard, low, high] = [rule.value, rule.low, rule.high].map((each) =>
    ctx.expressions.constant(each, 0),
  )
  const whole = [standard, low, high].every(Number.isInteger)
  const step = rule.by ? ctx.expressions.constant(rule.by, 1) : whole ? 1 : tidy((high - low) / 100)
  const value = Object.hasOwn(ctx.settings, rule.name.text) ? ctx.settings[rule.name.text] : standard
  if (!(low < high))
    ctx.expressions.fault(rule.low, `The range goes from ${low} to ${high}.`, 'Put the lower end first.')
  else if (!(step > 0)) ctx.expressions.fault(rule.by!, `The step is ${step}.`, 'Use a step above 0.')
  else if (!(standard >= low && standard <= high))
    ctx.expressions.fault(
      rule.value,
      `${standard} is not in the range ${low} to ${high}.`,
      'Widen the range or change the number.',
    )
  else if (!(value >= low && value <= high))
    ctx.expressions.fault(
      rule.name,
      `The knob is set to ${value}; its range is ${low} to ${high}.`,
      'Turn it back, or widen the range.',
    )
  else if (whole && Number.isInteger(step) && !Number.isInteger(value))
    ctx.expressions.fault(
      rule.name,
      `The knob is set to ${value}, and takes whole numbers.`,
      'Turn it to a whole number.',
    )
  ctx.knobs.push({ ...spanOf(rule.name), name: rule.name.text, value, standard, low, high, step })
  ctx.define(rule.name, constantNumber(value))
}

export function tableRule(ctx: RuleContext, rule: RuleOf<'table'>): void {
  const rows = rule.items.some(({ type }) => type === 'list' || type === 'each')
    ? tableRows(ctx, rule)
    : undefined
  const items = rows
    ? rows.flatMap((row) => row.items)
    : rule.items.map((item) => constantNumber(ctx.expressions.constant(item, 0)))
  const first = rule.first ? ctx.expressions.constant(rule.first, 1) : 1
  if (!Number.isInteger(first))
    ctx.expressions.fault(rule.first!, `The first place is ${first}.`, 'Use a whole number.')
  const words = rule.words?.map((word) => ctx.words.find(word.text) ?? -1)
  rule.words?.forEach((word, i) => {
    if (words![i] < 0)
      ctx.expressions.fault(word, `“${word.text}” is a name, not a word.`, 'Use another word.')
    else if (words!.indexOf(words![i]) < i)
      ctx.expressions.fault(word, `“${word.text}” stands here twice.`, 'Leave one out.')
  })
  ctx.define(rule.name, { items, first, words, rows })
}

/** The rows of a table of two dimensions: lists of one shape, of numbers known before anything runs. */
function tableRows(ctx: RuleContext, rule: RuleOf<'table'>): ListValue[] {
  const rows: ListValue[] = []
  for (const item of rule.items) {
    const row = ctx.expressions.value(item)
    if (!isList(row) && row.type.kind === 'unknown') continue
    const numbers = isList(row) ? row.items.map((each) => ctx.expressions.asNumber(each, item)) : []
    if (
      isList(row) &&
      numbers.some(({ constant, type }) => constant === undefined && type.kind !== 'unknown')
    )
      ctx.expressions.fault(item, 'This must be known before anything runs.', 'Use numbers and knobs here.')
    else if (!isList(row) || (rows[0] && shapeOfRow(rows[0]) !== shapeOfRow(row)))
      ctx.expressions.fault(
        item,
        isList(row)
          ? `This row has ${namesOfRow(ctx, row)}, the first one has ${namesOfRow(ctx, rows[0])}.`
          : `This is ${typeName(row)}, and other rows are lists.`,
        'Give every row the same items, in the same order.',
      )
    else rows.push({ ...row, items: numbers })
  }
  return rows.length ? rows : [{ items: [constantNumber(0)] }]
}

function shapeOfRow({ items, words, places }: ListValue): string {
  return `${items.length} ${words?.join()} ${places?.join()}`
}

function namesOfRow(ctx: RuleContext, { items, words, places }: ListValue): string {
  return words
    ? words.map((word) => ctx.words.texts[word]).join(', ')
    : places
      ? places.join(', ')
      : `${items.length} items`
}

export function stateRule(ctx: RuleContext, rule: RuleOf<'state'>): void {
  const length = rule.length ? ctx.expressions.constant(rule.length, 1) : 1
  if (!(Number.isInteger(length) && length >= 1 && length <= LIST_LIMIT)) {
    ctx.expressions.fault(rule.length!, `The list has ${length} items.`, `Use 1 to ${LIST_LIMIT}.`)
    ctx.values.set(rule.name.text, UNKNOWN)
    return
  }
  const shape = shapeOf(ctx, rule.domain)
  const dimensions: Dimension[] = []
  for (let i = 0; i < length; i++) {
    const partial = {
      ...shape,
      name: rule.length ? `${rule.name.text}[${i + 1}]` : rule.name.text,
      slot: ctx.slots(1),
      nextSlot: ctx.slots(1),
    }
    dimensions.push({ ...partial, type: dimensionType(partial) })
  }
  const items = dimensions.map(({ slot, type }) => slotValue(slot, type, BY_STATE))
  ctx.define(rule.name, rule.length ? { items } : items[0])
  if (ctx.variables.has(rule.name.text)) return
  ctx.variables.set(rule.name.text, {
    ...spanOf(rule),
    name: rule.name.text,
    isList: rule.length !== undefined,
    dimensions,
  })
}

function shapeOf(ctx: RuleContext, domain: Domain): Omit<Dimension, 'name' | 'slot' | 'nextSlot' | 'type'> {
  const none = { low: 0, high: 0, values: [], nearest: false }
  switch (domain.type) {
    case 'truth':
      return { ...none, kind: 'truth', size: 2, texts: ['no', 'yes'] }
    case 'set':
      return { ...none, ...setDomain(ctx, domain.items) }
    case 'range': {
      const low = ctx.expressions.constant(domain.from, 0)
      const high = ctx.expressions.constant(domain.to, 0)
      const count = high - low + 1
      if (!(Number.isInteger(low) && Number.isInteger(high) && low <= high)) {
        ctx.expressions.fault(
          { from: domain.from.from, to: domain.to.to },
          `The range goes from ${low} to ${high}.`,
          'Use whole numbers, the lower first; for real numbers add “in 20 buckets”.',
        )
        return { ...none, kind: 'whole', low, high: low, size: 1, texts: [String(low)] }
      }
      refuseSize(ctx, count, domain.to)
      const size = Math.min(count, SIZE_LIMIT)
      return {
        ...none,
        kind: 'whole',
        low,
        high,
        size,
        texts: Array.from({ length: size }, (_, i) => String(low + i)),
      }
    }
    case 'buckets': {
      const low = ctx.expressions.constant(domain.from, 0)
      const high = ctx.expressions.constant(domain.to, 1)
      const count = ctx.expressions.constant(domain.count, 1)
      if (!(low < high))
        ctx.expressions.fault(
          domain.from,
          `The range goes from ${low} to ${high}.`,
          'Put the lower end first.',
        )
      if (!(Number.isInteger(count) && count >= 1))
        ctx.expressions.fault(domain.count, `There are ${count} buckets.`, 'Use a whole number from 1.')
      else refuseSize(ctx, count, domain.count)
      const size = Number.isInteger(count) && count >= 1 ? Math.min(count, SIZE_LIMIT) : 1
      const width = bucketWidth({ low, high, size })
      return {
        kind: 'buckets',
        size,
        low,
        high,
        values: [],
        texts: Array.from({ length: size }, (_, i) => bucketText(low + (i + 0.5) * width, width)),
        nearest: domain.nearest,
      }
    }
  }
}

function refuseSize(ctx: RuleContext, count: number, span: Span): void {
  if (count > SIZE_LIMIT)
    ctx.expressions.fault(
      span,
      `This variable has ${count} values.`,
      `Use at most ${SIZE_LIMIT}; buckets thin it out.`,
    )
}

export function setDomain(
  ctx: RuleContext,
  items: readonly Expression[],
): {
  kind: 'set' | 'words'
  size: number
  values: number[]
  texts: string[]
} {
  const values = items.map((item) => ctx.expressions.scalar(item))
  const words = values.every((value) => value.type.kind === 'word')
  const numbers: number[] = []
  const texts: string[] = []
  values.forEach((value, i) => {
    const number = value.constant
    if (value.type.kind === 'unknown') return
    if (number === undefined || (!words && value.type.kind !== 'number'))
      ctx.expressions.fault(
        items[i],
        'The values are words, or numbers known before anything runs.',
        'Write low, high or 1, 2, 5.',
      )
    else if (numbers.includes(number))
      ctx.expressions.fault(items[i], 'This value stands here twice.', 'Leave one out.')
    else {
      numbers.push(number)
      texts.push(words ? ctx.words.texts[number] : String(number))
    }
  })
  if (!numbers.length) return { kind: 'set', size: 1, values: [0], texts: ['0'] }
  return { kind: words ? 'words' : 'set', size: numbers.length, values: numbers, texts }
}

/**
 * A bucket's centre, so that one can do the arithmetic again: without the dust of rounding, and in full where that would
 * make it another number.
 */
function bucketText(centre: number, width: number): string {
  const text = tidy(centre)
  return String(Math.abs(text - centre) <= 1e-9 * width ? text : centre)
}
