import { arithmetic } from './arithmetic'
import { FUNCTIONS, type Call } from './functions'
import { lookedUp, placeWithin } from './look-up'
import { nearestName, RuleFault, type Fault, type Span } from './place'
import type { Expression, Name, Walk } from './syntax'
import {
  constantNumber,
  constantTruth,
  derived,
  isList,
  joinTypes,
  numberType,
  TRUTH,
  typeName,
  UNKNOWN,
  type Scalar,
  type Value,
} from './values'

/** Pieces an expression may unfold to: lists written with `for` are written out. */
const UNFOLD_LIMIT = 20_000

/** Functions of a rulebook may call one another so many levels deep. */
const DEEPEST = 50

/** A function that a rulebook declares: `let cost(n) = …`. */
export interface OwnFunction {
  readonly name: Name
  readonly parameters: readonly Name[]
  readonly value: Expression
}

/** Where names come from. */
export interface Scope {
  find(name: string): Value | undefined
  /** What a state variable will be; undefined when it is none, or is not settled yet. */
  findNext(name: string): Value | undefined
  /** An action by its name: beside `action =` a name means the action, not its level. */
  findAction(name: string): Scalar | undefined
  /** A function that the rulebook declares. */
  findFunction(name: string): OwnFunction | undefined
  /** Whether a name is declared only after a place of the text. */
  standsBelow(name: string, place: number): boolean
  /** Why a name is not known, when there is more to say than that. */
  explain(name: string): { cause: string; remedy: string } | undefined
  /** How a word is written. */
  wordText(word: number): string
  /** All names, for suggestions. */
  names(): Iterable<string>
}

/** Checks expressions and turns them into functions over the frame. Tells faults and goes on. */
export class ExpressionCompiler {
  private locals: { name: string; value: Value }[] = []
  private unfolded = 0
  /** The function whose right side is at hand: it sees its parameters, and what stands above it. */
  private inside: OwnFunction | undefined
  private depth = 0

  constructor(
    private readonly scope: Scope,
    private readonly faults: Fault[],
  ) {}

  fault({ from, to }: Span, cause: string, remedy: string, unknownName = false): Scalar {
    this.faults.push({ from, to, cause, remedy, unknownName })
    return UNKNOWN
  }

  /** Compiles something in which some names have values of their own. */
  within<T>(locals: readonly { readonly name: string; readonly value: Value }[], compile: () => T): T {
    const before = this.locals
    this.locals = [...before, ...locals]
    try {
      return compile()
    } finally {
      this.locals = before
    }
  }

  number(expression: Expression): Scalar {
    return this.asNumber(this.value(expression), expression)
  }

  truth(expression: Expression): Scalar {
    const value = this.value(expression)
    if (!isList(value) && (value.type.kind === 'truth' || value.type.kind === 'unknown')) return value
    return this.fault(
      expression,
      `This is ${typeName(value)}, not yes or no.`,
      'Write a condition, such as left > 0.',
    )
  }

  /** A number known before anything runs; tells the fault and gives the stand-in otherwise. */
  constant(expression: Expression, standIn: number): number {
    const value = this.number(expression)
    if (value.type.kind === 'unknown') return standIn
    if (value.constant !== undefined) return value.constant
    this.fault(
      expression,
      'This must be known before anything runs.',
      'Use numbers, knobs and tables here, and lets made of them.',
    )
    return standIn
  }

  asNumber(value: Value, span: Span): Scalar {
    if (!isList(value) && (value.type.kind === 'number' || value.type.kind === 'unknown')) return value
    return this.fault(span, `This is ${typeName(value)}, not a number.`, 'Use a number here.')
  }

  value(expression: Expression): Value {
    try {
      return this.compile(expression)
    } catch (error) {
      // Constants are computed at once, and may turn out to be no numbers.
      if (!(error instanceof RuleFault)) throw error
      const { cause, remedy } = error.fault
      return this.fault(error.fault, cause, remedy)
    }
  }

  private compile(expression: Expression): Value {
    if (++this.unfolded > UNFOLD_LIMIT) {
      if (this.unfolded === UNFOLD_LIMIT + 1)
        this.fault(
          expression,
          'Lists written with “for” and functions that call others unfold to too much.',
          'Make them shorter.',
        )
      return UNKNOWN
    }
    switch (expression.type) {
      case 'number':
        return constantNumber(expression.value)
      case 'truth':
        return constantTruth(expression.value)
      case 'name':
        return this.name(expression.name, expression)
      case 'next':
        return this.next(expression.name.text, expression.name)
      case 'not': {
        const of = this.truth(expression.of)
        return derived(TRUTH, [of], (frame) => 1 - of.run(frame))
      }
      case 'minus': {
        const of = this.number(expression.of)
        if (of.type.kind !== 'number') return UNKNOWN
        return derived(
          numberType(of.type.whole, -of.type.high, -of.type.low),
          [of],
          (frame) => -of.run(frame),
        )
      }
      case 'binary':
        return this.binary(expression)
      case 'if':
        return this.conditional(expression)
      case 'call':
        return this.call(expression)
      case 'item':
        return this.item(expression)
      case 'list':
        return this.listOf(expression)
      case 'each':
        return this.each(expression)
    }
  }

  /** A value that is no list. */
  scalar(expression: Expression): Scalar {
    const value = this.value(expression)
    if (!isList(value)) return value
    return this.fault(expression, `This is ${typeName(value)}.`, 'Use one item: name[1], or sum(name).')
  }

  private name(name: string, span: Span): Value {
    for (let i = this.locals.length - 1; i >= 0; i--)
      if (this.locals[i].name === name) return this.locals[i].value
    if (this.isBelow(name)) return this.fault(span, ...notYet(name))
    const value = this.scope.find(name)
    if (value && isList(value) && value.rows)
      return this.fault(span, `“${name}” is a table of rows.`, `Choose a row: ${name}[…].`)
    if (value) return value
    const why = this.scope.explain(name)
    if (why) return this.fault(span, why.cause, why.remedy)
    const meant = nearestName(name, this.scope.names())
    return this.fault(
      span,
      `There is no “${name}”.`,
      meant
        ? `Did you mean “${meant}”?`
        : 'Say what it is above this line: with state, knob, table, let or chance.',
      true,
    )
  }

  private next(name: string, span: Span): Value {
    const value = this.scope.findNext(name)
    if (value) return value
    const why = this.scope.explain(`next ${name}`)
    return this.fault(
      span,
      why?.cause ?? `There is no state variable “${name}”.`,
      why?.remedy ?? 'After “next” comes the name of a state variable.',
    )
  }

  private binary(expression: Extract<Expression, { type: 'binary' }>): Value {
    const { operator } = expression
    if (operator === 'and' || operator === 'or') {
      const left = this.truth(expression.left)
      // What the left side decides keeps the right side from being looked at: it may guard it.
      const decided = operator === 'and' ? 0 : 1
      if (left.constant === decided) return this.unreached(expression.right, constantTruth(decided === 1))
      const right = this.truth(expression.right)
      return derived(TRUTH, [left, right], (frame) =>
        left.run(frame) === decided ? decided : right.run(frame),
      )
    }
    if (operator === '=' || operator === '!=') return this.equality(expression)
    const left = this.number(expression.left)
    const right = this.number(expression.right)
    if (left.type.kind !== 'number' || right.type.kind !== 'number') return UNKNOWN
    return arithmetic(operator, left, right, { span: expression, tell: (...told) => this.fault(...told) })
  }

  private equality(expression: Extract<Expression, { type: 'binary' }>): Value {
    const left = this.side(expression.left, expression.right)
    const right = this.side(expression.right, expression.left)
    const wanted = expression.operator === '=' ? 1 : 0
    if (isList(left) || isList(right)) {
      if (!isList(left) || !isList(right) || left.items.length !== right.items.length)
        return this.fault(
          expression,
          `This compares ${typeName(left)} with ${typeName(right)}.`,
          'Compare lists of the same length.',
        )
      const pairs = left.items.map((item, i) => this.equal(item, right.items[i], expression))
      return derived(TRUTH, pairs, (frame) => {
        for (const pair of pairs) if (pair.run(frame) === 0) return 1 - wanted
        return wanted
      })
    }
    const equal = this.equal(left, right, expression)
    return wanted ? equal : derived(TRUTH, [equal], (frame) => 1 - equal.run(frame))
  }

  private side(expression: Expression, other: Expression): Value {
    if (other.type === 'name' && other.name === 'action' && expression.type === 'name') {
      const action = this.scope.findAction(expression.name)
      if (action) return action
    }
    return this.value(expression)
  }

  private equal(left: Scalar, right: Scalar, span: Span): Scalar {
    if (!joinTypes(left.type, right.type))
      return this.fault(
        span,
        `This compares ${typeName(left)} with ${typeName(right)}.`,
        'Compare like with like.',
      )
    // A function is called with one word here and with another there.
    if (!this.inside && left.type.kind === 'word' && right.type.kind === 'word') {
      const { words } = right.type
      if (!left.type.words.some((word) => words.includes(word)))
        return this.fault(span, 'These words can never be the same.', 'Look for a misspelt word.')
    }
    return derived(TRUTH, [left, right], (frame) => (left.run(frame) === right.run(frame) ? 1 : 0))
  }

  /** A branch that these knobs never take: its names are looked up, its numbers may be impossible. */
  private unreached(expression: Expression, result: Value): Value {
    const before = this.faults.length
    this.value(expression)
    const told = this.faults.splice(before)
    this.faults.push(...told.filter(({ unknownName }) => unknownName))
    return result
  }

  private conditional(expression: Extract<Expression, { type: 'if' }>): Value {
    const condition = this.truth(expression.condition)
    if (condition.constant !== undefined) {
      const [taken, other] = condition.constant
        ? [expression.then, expression.otherwise]
        : [expression.otherwise, expression.then]
      return this.unreached(other, this.value(taken))
    }
    const then = this.value(expression.then)
    const otherwise = this.value(expression.otherwise)
    const choose = (one: Scalar, other: Scalar): Scalar => {
      const type = joinTypes(one.type, other.type)
      if (!type)
        return this.fault(
          expression,
          `After “then” stands ${typeName(one)}, after “else” ${typeName(other)}.`,
          'Both must be of the same kind.',
        )
      return derived(type, [condition, one, other], (frame) =>
        condition.run(frame) ? one.run(frame) : other.run(frame),
      )
    }
    if (!isList(then) && !isList(otherwise)) return choose(then, otherwise)
    if (!isList(then) || !isList(otherwise) || then.items.length !== otherwise.items.length)
      return this.fault(
        expression,
        `After “then” stands ${typeName(then)}, after “else” ${typeName(otherwise)}.`,
        'Both must be of the same kind and length.',
      )
    return { items: then.items.map((item, i) => choose(item, otherwise.items[i])) }
  }

  private call(expression: Extract<Expression, { type: 'call' }>): Value {
    const { callee } = expression
    const own = this.scope.findFunction(callee.text)
    // That is told where it is declared.
    if (own && own === this.inside) return UNKNOWN
    if (own)
      return this.isBelow(callee.text)
        ? this.fault(callee, ...notYet(callee.text))
        : this.callOwn(expression, own)
    const builtIn = Object.hasOwn(FUNCTIONS, callee.text) ? FUNCTIONS[callee.text] : undefined
    if (!builtIn) {
      if (this.scope.find(callee.text))
        return this.fault(
          callee,
          `“${callee.text}” is a value, not a function.`,
          `Leave out the (…); an item of a list is written ${callee.text}[1].`,
        )
      const why = this.scope.explain(callee.text)
      if (why) return this.fault(callee, why.cause, why.remedy)
      const meant = nearestName(callee.text, Object.keys(FUNCTIONS))
      return this.fault(
        callee,
        `There is no function “${callee.text}”.`,
        meant
          ? `Did you mean “${meant}”?`
          : `The functions are ${Object.keys(FUNCTIONS).join(', ')}. A distribution stands after ~, in a chance line.`,
        true,
      )
    }
    const [least, most] = builtIn.count
    if (expression.args.length < least || expression.args.length > most)
      return this.fault(
        expression,
        `${callee.text} takes ${least === most ? least : `${least} to ${most}`} values, not ${expression.args.length}.`,
        `Write ${builtIn.form}.`,
      )
    const args = expression.args.map((arg) => this.value(arg))
    if (args.some((arg) => !isList(arg) && arg.type.kind === 'unknown')) return UNKNOWN
    const number = (i: number) => this.asNumber(args[i], expression.args[i])
    const call: Call = {
      from: expression.from,
      to: expression.to,
      args,
      number,
      whole: (i) => this.whole(expression.args[i], number(i)),
      list: (i) => {
        const value = args[i]
        if (isList(value)) return value
        this.fault(expression.args[i], `This is ${typeName(value)}, not a list.`, `Write ${builtIn.form}.`)
        return { items: [UNKNOWN] }
      },
      numbers: () => {
        const only = args[0]
        const items = args.length === 1 && isList(only) ? only.items : args.map((_, i) => number(i))
        return items.map((item, i) => this.asNumber(item, expression.args[Math.min(i, args.length - 1)]))
      },
      fault: (cause, remedy) => this.fault(expression, cause, remedy),
    }
    return builtIn.apply(call)
  }

  private isBelow(name: string): boolean {
    return this.inside !== undefined && this.scope.standsBelow(name, this.inside.name.from)
  }

  /** Calls a function of the rulebook: it sees its parameters and what stands above it, not the names around the call. */
  private callOwn(expression: Extract<Expression, { type: 'call' }>, own: OwnFunction): Value {
    const { callee, args } = expression
    const { parameters, value } = own
    const form = `${callee.text}(${parameters.map(({ text }) => text).join(', ')})`
    if (args.length !== parameters.length)
      return this.fault(
        expression,
        `${callee.text} takes ${parameters.length} ${parameters.length === 1 ? 'value' : 'values'}, not ${args.length}.`,
        `Write ${form}.`,
      )
    if (this.depth >= DEEPEST)
      return this.fault(
        callee,
        `Functions call one another more than ${DEEPEST} levels deep.`,
        'Use fewer of them.',
      )
    const given = args.map((arg) => this.value(arg))
    if (given.some((each) => !isList(each) && each.type.kind === 'unknown')) return UNKNOWN
    const { locals, inside } = this
    const before = this.faults.length
    this.inside = own
    this.depth++
    this.locals = parameters.map(({ text }, i) => ({ name: text, value: given[i] }))
    const result = this.value(value)
    this.inside = inside
    this.depth--
    this.locals = locals
    // Of several calls each would tell the same.
    const told = this.faults.splice(before)
    for (const fault of told)
      if (
        !this.faults.some(
          ({ from, to, cause }) => from === fault.from && to === fault.to && cause === fault.cause,
        )
      )
        this.faults.push(fault)
    return result
  }

  private listOf({ items, keys }: Extract<Expression, { type: 'list' }>): Value {
    const values = items.map((item) => this.scalar(item))
    if (!keys) return { items: values }
    const known = keys.map((key) => this.scalar(key))
    const bad = known.findIndex(
      ({ constant, type }) =>
        constant === undefined ||
        type.kind !== known[0].type.kind ||
        (type.kind !== 'word' && type.kind !== 'number'),
    )
    if (bad >= 0)
      return known[bad].type.kind === 'unknown'
        ? UNKNOWN
        : this.fault(
            keys[bad],
            'Values are named by words, or by numbers known before anything runs.',
            'Write [cellar: 1, attic: 2] or [0: 0.5, 10: 0.5].',
          )
    const numbers = known.map(({ constant }) => constant!)
    const twice = numbers.findIndex((number, k) => numbers.indexOf(number) < k)
    if (twice >= 0) return this.fault(keys[twice], 'This name stands here twice.', 'Leave one out.')
    return known[0].type.kind === 'word'
      ? { items: values, words: numbers }
      : { items: values, places: numbers }
  }

  /** A place in a list of so many items, from 1. */
  place(expression: Expression, length: number): Scalar {
    return placeWithin(this.whole(expression, this.number(expression)), length, {
      from: expression.from,
      to: expression.to,
      tell: (...told) => this.fault(expression, ...told),
    })
  }

  private whole(expression: Expression, value: Scalar): Scalar {
    if (value.type.kind !== 'number' || value.type.whole) return value
    return this.fault(expression, 'This need not be a whole number.', 'Use round, floor or ceil.')
  }

  private item(expression: Extract<Expression, { type: 'item' }>): Value {
    const list = this.listOrRows(expression.of)
    if (isList(list)) {
      const { from, to } = expression.index
      return lookedUp(list, this.scalar(expression.index), {
        from,
        to,
        tell: (...told) => this.fault(expression.index, ...told),
        wordText: (word) => this.scope.wordText(word),
      })
    }
    if (list.type.kind === 'unknown') return list
    return this.fault(expression.of, `This is ${typeName(list)}, not a list or table.`, 'Leave out the […].')
  }

  /** A name may stand for a table of rows where one of them is chosen. */
  private listOrRows(expression: Expression): Value {
    const table =
      expression.type === 'name' && !this.isBelow(expression.name) && this.scope.find(expression.name)
    const hidden = this.locals.some(({ name }) => expression.type === 'name' && name === expression.name)
    return table && !hidden && isList(table) && table.rows ? table : this.value(expression)
  }

  private each({ walks, item }: Extract<Expression, { type: 'each' }>): Value {
    const walked: { readonly name: Name; readonly values: readonly Value[] }[] = []
    for (const walk of walks) {
      const values = this.walked(walk)
      if (!values) return UNKNOWN
      const [first] = walked
      if (first && values.length !== first.values.length)
        return this.fault(
          walk.name,
          `“${walk.name.text}” has ${values.length} items, “${first.name.text}” has ${first.values.length}.`,
          'Lists that are walked through side by side must have the same length.',
        )
      if (walked.some(({ name }) => name.text === walk.name.text))
        return this.fault(
          walk.name,
          `Two counters are called “${walk.name.text}”.`,
          'Give each a name of its own.',
        )
      walked.push({ name: walk.name, values })
    }
    const items: Scalar[] = []
    const before = this.faults.length
    for (let i = 0; i < walked[0].values.length; i++) {
      for (const { name, values } of walked) this.locals.push({ name: name.text, value: values[i] })
      items.push(this.scalar(item))
      for (const _ of walked) this.locals.pop()
      // A fault of the first item would be told again for every other one.
      if (this.faults.length > before) return UNKNOWN
    }
    return { items }
  }

  /** What a name stands for, one after the other; undefined after a fault. */
  private walked({ over }: Walk): readonly Value[] | undefined {
    if (over.type === 'list') {
      const list = this.value(over.list)
      if (isList(list)) return list.items
      this.fault(over.list, `This is ${typeName(list)}, not a list.`, 'Give a list.')
      return undefined
    }
    const from = this.constant(over.from, 1)
    const to = this.constant(over.to, 1)
    if (Number.isInteger(from) && Number.isInteger(to) && from <= to && to - from < 200)
      return Array.from({ length: to - from + 1 }, (_, i) => constantNumber(from + i))
    this.fault(
      over.to,
      `It counts from ${from} to ${to}.`,
      'Count with whole numbers, upwards, over at most 200.',
    )
    return undefined
  }
}

/** What is to be said of a name that is declared further down. */
export function notYet(name: string): [cause: string, remedy: string] {
  return [
    `“${name}” is not known here yet: its line stands further down.`,
    'Move that line up, above the first line that uses it.',
  ]
}
