import { setDomain } from './declare-state'
import { spanOf, RuleFault } from './place'
import type { RuleContext } from './rule-context'
import type { Levels, Name, RuleOf } from './syntax'
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
  const given = rule.given.flatMap(({ name: of, value }) => {
    const slot = ctx.levelSlots.get(of.text)
    const constant = ctx.expressions.constant(value, 0)
    if (slot !== undefined) return [{ slot, value: constant }]
    ctx.expressions.fault(
      of,
      `“${of.text}” is no action with numbers above this line.`,
      'Put its line above.',
    )
    return []
  })
  if (!rule.levels) {
    ctx.beforeStep = true
    const when = rule.when && ctx.stateTruth(rule.when, BY_STATE)
    ctx.beforeStep = false
    ctx.choices.push({ label: name.text, group, action, level: NaN, given, when })
    return
  }
  const slot = ctx.slots(1)
  ctx.levelSlots.set(name.text, slot)
  const { values, words } = levelsOf(ctx, rule.levels)
  ctx.define(name, levelValue(ctx, name, slot, values, words))
  ctx.beforeStep = true
  const when = rule.when && ctx.stateTruth(rule.when, BY_ACTION)
  ctx.beforeStep = false
  values.forEach((value) => {
    const text = words ? ctx.words.texts[value] : String(value)
    ctx.choices.push({
      label: `${name.text} ${text}`,
      group,
      action,
      level: words ? NaN : value,
      given: [...given, { slot, value }],
      when,
    })
  })
  if (ctx.choices.length > CHOICE_LIMIT)
    ctx.expressions.fault(
      name,
      `There are ${ctx.choices.length} actions.`,
      `Thin them out: “in 11 levels”. At most ${CHOICE_LIMIT}.`,
    )
}

/** The level of an action, which has no value while another action is taken. */
function levelValue(
  ctx: RuleContext,
  name: Name,
  slot: number,
  values: readonly number[],
  words: boolean,
): Scalar {
  const given = ctx.rules.some(
    (rule) => rule.type === 'action' && rule.given.some((each) => each.name.text === name.text),
  )
  const type: ScalarType = words
    ? { kind: 'word', words: values }
    : given
      ? numberType(values.every(Number.isInteger), -Infinity, Infinity)
      : numberType(values.every(Number.isInteger), Math.min(...values), Math.max(...values))
  const fault = new RuleFault({
    ...spanOf(name),
    cause: `“${name.text}” has no value while another action is taken.`,
    remedy: `Ask first: if action = ${name.text} then … else …; or give that action one: action other with ${name.text} = 0.`,
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
