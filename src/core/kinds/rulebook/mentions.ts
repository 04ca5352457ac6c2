import type { Distribution, Expression, Rule, RuleOf } from './syntax'

/** The names that an expression reads: those of values and functions, and those after `next`. */
export interface Mentions {
  readonly names: Set<string>
  readonly nexts: Set<string>
}

export function mentionsOf(...expressions: readonly (Expression | Distribution | undefined)[]): Mentions {
  const found: Mentions = { names: new Set(), nexts: new Set() }
  for (const expression of expressions) if (expression) look(expression, found)
  return found
}

/** The expressions of each rule that are worked out for a state or a step; those worked out once are left out. */
const EXPRESSIONS: {
  readonly [T in Rule['type']]: (rule: RuleOf<T>) => readonly (Expression | Distribution | undefined)[]
} = {
  knob: () => [],
  table: () => [],
  state: () => [],
  start: () => [],
  action: ({ when }) => [when],
  chance: ({ distribution }) => [distribution],
  let: ({ value }) => [value],
  reward: ({ value, when }) => [value, when],
  discount: ({ value, when }) => [value, when],
  next: ({ item, value, when }) => [item, value, when],
  end: ({ condition }) => [condition],
  measure: ({ value }) => [value],
  check: ({ condition }) => [condition],
  policy: ({ choices }) =>
    choices.flatMap(({ level, parts, when }) => [level, ...parts.map(({ value }) => value), when]),
  observe: ({ items }) => items.map(({ value }) => value),
  same: () => [],
  pass: ({ condition }) => [condition],
  impossible: ({ penalty }) => [penalty],
}

/** What a rule reads. */
export function readBy(rule: Rule): Mentions {
  return mentionsOf(...(EXPRESSIONS[rule.type] as (rule: Rule) => (Expression | undefined)[])(rule))
}

function look(e: Expression | Distribution, found: Mentions): void {
  const inside = (...parts: readonly (Expression | Distribution | null | undefined)[]) => {
    for (const part of parts) if (part) look(part, found)
  }
  if (!('type' in e)) {
    inside(e.table, e.low, e.high, ...e.args, ...e.cases.flatMap(({ value, chance }) => [value, chance]))
    return
  }
  switch (e.type) {
    case 'number':
    case 'truth':
      return
    case 'name':
      found.names.add(e.name)
      return
    case 'next':
      found.nexts.add(e.name.text)
      return
    case 'not':
    case 'minus':
      return inside(e.of)
    case 'binary':
      return inside(e.left, e.right)
    case 'if':
      return inside(e.condition, e.then, e.otherwise)
    case 'call':
      found.names.add(e.callee.text)
      return inside(...e.args)
    case 'item':
      return inside(e.of, e.index)
    case 'list':
      return inside(...e.items, ...(e.keys ?? []))
    case 'each':
      inside(e.item)
      for (const { over } of e.walks)
        if (over.type === 'list') inside(over.list)
        else inside(over.from, over.to)
  }
}
