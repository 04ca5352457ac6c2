import { setDomain } from './declare-state'
import { spanOf, RuleFault } from './place'
import type { ChoicePart } from './program'
import type { RuleContext } from './rule-context'
import type { Binding, Levels, Name, Part, RuleOf } from './syntax'
import { BY_ACTION, BY_STATE, numberType, type Scalar, type ScalarType } from './values'

const CHOICE_LIMIT = 2000

export function actionRule(ctx: RuleContext, rule: RuleOf<'action'>): void {
  const { name } = rule
  if (ctx.groups.includes(name.text)) {
    ctx.expressions.fault(name, `The action “${name.text}” is declared twice.`, 'Leave one out.')
    return
  }
  if (!rule.levels && ctx.values.has(name.text)) {
    ctx.expressions.fault(name, `“${name.text}” is declared already.`, 'Choose another name for the action.')
    return
  }
  ctx.groups.push(name.text)
  ctx.groupSpans.push(spanOf(name))
  const group = ctx.groups.length - 1
  const action = ctx.words.add(name.text)
  const given = rule.given.flatMap((binding) => givenPart(ctx, binding))
  const parts = [...(rule.levels ? [{ name, levels: rule.levels }] : []), ...rule.parts]
  refuseTwice(ctx, [...parts, ...rule.given])
  const values = parts.map((part) => partValues(ctx, part))
  ctx.partNames.push(parts.map((part) => part.name.text))
  const when = whenOf(ctx, rule)
  const count = values.reduce((product, each) => product * each.length, 1)
  if (ctx.choices.length + count > CHOICE_LIMIT) {
    ctx.expressions.fault(
      name,
      `There are ${ctx.choices.length + count} actions.`,
      `Thin them out: “in 11 levels”. At most ${CHOICE_LIMIT}.`,
    )
    return
  }
  for (const chosen of combinations(values))
    ctx.choices.push({
      label: [
        name.text,
        ...chosen.map((part, p) => (p === 0 && rule.levels ? part.text : `${part.name} ${part.text}`)),
      ].join(' '),
      group,
      action,
      parts: chosen,
      given: [...given, ...chosen],
      when,
    })
}

/** Every way to take one of each; the last changes first. */
function combinations<T>(lists: readonly (readonly T[])[]): T[][] {
  return lists.reduce<T[][]>(
    (sofar, list) => sofar.flatMap((each) => list.map((item) => [...each, item])),
    [[]],
  )
}

function refuseTwice(ctx: RuleContext, parts: readonly { readonly name: Name }[]): void {
  const twice = parts.find(({ name }, p) => parts.findIndex((each) => each.name.text === name.text) < p)
  if (twice)
    ctx.expressions.fault(twice.name, `Two parts are called “${twice.name.text}”.`, 'Name them apart.')
}

function whenOf(ctx: RuleContext, { when, levels, parts }: RuleOf<'action'>): Scalar | undefined {
  ctx.beforeStep = true
  const condition = when && ctx.stateTruth(when, levels || parts.length ? BY_ACTION : BY_STATE)
  ctx.beforeStep = false
  return condition
}

/** What a part of other actions is while this one is taken. */
function givenPart(ctx: RuleContext, { name, value }: Binding): { slot: number; value: number }[] {
  const slot = ctx.levelSlots.get(name.text)
  const given = ctx.expressions.scalar(value)
  if (slot === undefined) {
    ctx.expressions.fault(
      name,
      `“${name.text}” is no part of an action above this line.`,
      `Put the line of that action above; a part of this action is written with ${name.text} in 1, 2.`,
    )
    return []
  }
  if (given.type.kind === 'unknown' || ctx.refuseOtherKind(name.text, given, value)) return []
  if (given.constant === undefined) {
    ctx.expressions.fault(value, 'This must be known before anything runs.', 'Use numbers, words and knobs.')
    return []
  }
  return [{ slot, value: given.constant }]
}

/** Declares a part, and tells what it can be. */
function partValues(ctx: RuleContext, { name, levels }: Part): ChoicePart[] {
  if (ctx.groups.slice(0, -1).includes(name.text))
    ctx.expressions.fault(name, `“${name.text}” is an action.`, 'Choose another name for the part.')
  const { values, words } = levelsOf(ctx, levels)
  const known = ctx.levelSlots.get(name.text)
  const slot = known ?? ctx.slots(1)
  ctx.levelSlots.set(name.text, slot)
  if (known === undefined) ctx.define(name, partValue(ctx, name, slot, values, words))
  else refuseOtherKind(ctx, name, values, words)
  return values.map((value) => ({
    name: name.text,
    slot,
    value,
    isWord: words,
    text: words ? ctx.words.texts[value] : String(value),
  }))
}

/** Actions may have parts of one name: they are of one kind then, and words are among those of the first. */
function refuseOtherKind(ctx: RuleContext, name: Name, values: readonly number[], words: boolean): void {
  const { type } = ctx.values.get(name.text) as Scalar
  if (
    type.kind === (words ? 'word' : 'number') &&
    (type.kind !== 'word' || values.every((each) => type.words.includes(each)))
  )
    return
  ctx.expressions.fault(
    name,
    type.kind === 'word'
      ? `Another action above has the part “${name.text}”, one of ${type.words.map((word) => ctx.words.texts[word]).join(', ')}.`
      : `Another action above has the part “${name.text}”, a number.`,
    'Use those here as well, or choose another name.',
  )
}

/** The value of a part, which has none while an action without it is taken. */
function partValue(
  ctx: RuleContext,
  name: Name,
  slot: number,
  values: readonly number[],
  words: boolean,
): Scalar {
  // Other actions may give it other numbers.
  const isShared =
    ctx.rules.filter(
      (rule) =>
        rule.type === 'action' && [...rule.given, ...rule.parts].some((each) => each.name.text === name.text),
    ).length > (ctx.groups.at(-1) === name.text ? 0 : 1)
  const type: ScalarType = words
    ? { kind: 'word', words: values }
    : isShared
      ? numberType(values.every(Number.isInteger), -Infinity, Infinity)
      : numberType(values.every(Number.isInteger), Math.min(...values), Math.max(...values))
  const fault = new RuleFault({
    ...spanOf(name),
    cause: `“${name.text}” has no value while another action is taken.`,
    remedy: `Ask first: “when action = ${ctx.groups.at(-1)}” at the end of the line, or if action = ${ctx.groups.at(-1)} then … else …; or give that action one: action other with ${name.text} = ${words ? ctx.words.texts[values[0]] : 0}.`,
  })
  return {
    type,
    depth: BY_ACTION,
    run: (frame) => {
      const value = frame[slot]
      if (value !== value) throw fault
      return value
    },
  }
}

function levelsOf(ctx: RuleContext, levels: Levels): { values: number[]; words: boolean } {
  if (levels.type === 'set') {
    const { kind, values } = setDomain(ctx, levels.items)
    return { values, words: kind === 'words' }
  }
  const low = ctx.expressions.constant(levels.from, 0)
  const high = ctx.expressions.constant(levels.to, 0)
  const span = { from: levels.from.from, to: levels.to.to }
  if (!(low <= high)) {
    ctx.expressions.fault(span, `The levels go from ${low} to ${high}.`, 'Put the lower end first.')
    return { values: [low], words: false }
  }
  const whole = Number.isInteger(low) && Number.isInteger(high)
  if (levels.count) {
    const count = ctx.expressions.constant(levels.count, 2)
    if (!(Number.isInteger(count) && count >= 2 && count <= CHOICE_LIMIT)) {
      ctx.expressions.fault(levels.count, `There are ${count} levels.`, `Use 2 to ${CHOICE_LIMIT}.`)
      return { values: [low], words: false }
    }
    const spread = Array.from({ length: count }, (_, i) => {
      const level = low + ((high - low) * i) / (count - 1)
      // Whole where there are whole numbers enough, so that 0 to 5000 in 7 levels makes no fractions.
      return whole && high - low >= count - 1 ? Math.floor(level + 0.5) : Number(level.toPrecision(12))
    })
    return { values: [...new Set(spread)], words: false }
  }
  const by = levels.by ? ctx.expressions.constant(levels.by, 1) : 1
  const count = Math.floor((high - low) / by + 1e-9) + 1
  if (!(by > 0) || !(count <= CHOICE_LIMIT)) {
    ctx.expressions.fault(
      levels.by ?? span,
      by > 0 ? `There are ${count} levels.` : `The step is ${by}.`,
      by > 0 ? `Thin them out: “in 11 levels”. At most ${CHOICE_LIMIT}.` : 'Use a step above 0.',
    )
    return { values: [low], words: false }
  }
  return {
    values: Array.from({ length: count }, (_, i) => Number((low + i * by).toPrecision(12))),
    words: false,
  }
}

export function impossibleRule(ctx: RuleContext, rule: RuleOf<'impossible'>): void {
  if (ctx.treatment) {
    ctx.expressions.fault(
      rule,
      'It is said above already what becomes of impossible actions.',
      'Leave one of the lines out.',
    )
    return
  }
  ctx.treatment = rule
  if (!rule.penalty) return
  ctx.beforeStep = true
  const penalty = ctx.expressions.number(rule.penalty)
  ctx.beforeStep = false
  if (penalty.depth > BY_ACTION)
    ctx.expressions.fault(rule.penalty, 'The penalty depends on chance.', 'Use the state, knobs and tables.')
  ctx.penalty = penalty
}
