import { ExpressionCompiler, notYet, type OwnFunction, type Scope } from './expressions'
import { FUNCTIONS } from './functions'
import { mentionsOf } from './mentions'
import { spanOf, nearestName, type Fault, type Span } from './place'
import type {
  ChanceStep,
  Choice,
  Guarded,
  Knob,
  Operation,
  PolicyRule,
  Program,
  StartRule,
  Titled,
} from './program'
import type { Expression, Name, Rule, RuleOf } from './syntax'
import {
  BY_ACTION,
  BY_STATE,
  CONSTANT,
  constantWord,
  depthOf,
  derived,
  isList,
  joinTypes,
  slotValue,
  TRUTH,
  typeName,
  UNKNOWN,
  Words,
  type Scalar,
  type ScalarType,
  type Value,
} from './values'
import { indexOfValue, type Dimension, type Variable } from './variables'

/** What other languages call yes and no. */
const TRUTHS: Readonly<Record<string, string>> = {
  true: 'yes',
  True: 'yes',
  TRUE: 'yes',
  false: 'no',
  False: 'no',
  FALSE: 'no',
}

/** A line that says what a variable will be. */
export interface NextPart {
  /** One a dimension. */
  readonly items: readonly Scalar[]
  /** The place of the only item that the line speaks of, from 1; it is asked for after the condition. */
  readonly place?: Scalar
  readonly when?: Scalar
  readonly span: Span
}

/** What the rules of one rulebook have come to so far, and what they share: names, words, slots of the frame, faults. */
export class RuleContext implements Scope {
  readonly expressions: ExpressionCompiler
  readonly words = new Words()
  readonly values = new Map<string, Value>()
  private readonly functions = new Map<string, OwnFunction>()
  /** Where each name is declared, in the whole text. */
  readonly declared = new Map<string, Span>()
  readonly variables = new Map<string, Variable>()
  readonly nexts = new Map<string, NextPart[]>()
  readonly settled = new Map<string, Value>()
  readonly knobs: Knob[] = []
  readonly starts: StartRule[] = []
  readonly groups: string[] = []
  readonly groupSpans: Span[] = []
  /** Names that some rule has looked up. */
  readonly read = new Set<string>()
  readonly choices: Choice[] = []
  /** Where the levels and parts of actions are, by their names. */
  readonly levelSlots = new Map<string, number>()
  /** [groups] the names of the parts of each action, that of its level first */
  readonly partNames: string[][] = []
  readonly byState: Operation[] = []
  readonly operations: Operation[][] = [[]]
  readonly rewards: Guarded[][] = [[]]
  readonly discounts: Guarded[] = []
  readonly chances: ChanceStep[] = []
  readonly endings: { condition: Scalar; span: Span }[] = []
  readonly endsAfter: Titled[] = []
  readonly measures: Titled[] = []
  readonly checks: Titled[] = []
  readonly policies: PolicyRule[] = []
  readonly sameLists: RuleOf<'same'>[] = []
  readonly actionSlot: number
  readonly passWord: number
  observe: Scalar[] | null = null
  pass: Program['pass'] = null
  treatment: RuleOf<'impossible'> | undefined
  penalty: Scalar | null = null
  frameSize = 0
  /** True for what is decided before a step is worked out: lets that depend on the action are not known then. */
  beforeStep = false
  private readonly stepNames = new Set<string>()
  /** The name that is being defined, which must not stand in its own definition. */
  defining: string | undefined
  /** Some states pass by themselves: `action` can then be `pass`. */
  readonly passes: boolean

  constructor(
    readonly rules: readonly Rule[],
    readonly settings: Readonly<Record<string, number>>,
    readonly faults: Fault[],
  ) {
    this.expressions = new ExpressionCompiler(this, faults)
    this.actionSlot = this.frameSize++
    this.collectNames()
    this.passWord = this.words.add('pass')
    this.passes = this.rules.some((rule) => rule.type === 'pass')
  }

  find(name: string): Value | undefined {
    this.read.add(name)
    if (name === 'action' && this.groups.length)
      return slotValue(
        this.actionSlot,
        {
          kind: 'word',
          words: [
            ...this.groups.map((group) => this.words.find(group)!),
            ...(this.passes ? [this.passWord] : []),
          ],
        },
        BY_ACTION,
      )
    const value = this.values.get(name)
    if (value) return this.beforeStep && this.stepNames.has(name) ? undefined : value
    const word = this.words.find(name)
    return word === undefined || this.declared.has(name) ? undefined : constantWord(word)
  }

  findAction(name: string): Scalar | undefined {
    return this.groups.includes(name) ? constantWord(this.words.find(name)!) : undefined
  }

  findFunction(name: string): OwnFunction | undefined {
    return this.functions.get(name)
  }

  standsBelow(name: string, place: number): boolean {
    return (this.declared.get(name)?.from ?? place) > place
  }

  findNext(name: string): Value | undefined {
    const variable = this.variables.get(name)
    const value = variable && this.nexts.has(name) ? this.settle(variable) : undefined
    // Before a step is taken only what follows from the state alone is known of what comes after it.
    return value && this.beforeStep && depthOf(value) > BY_STATE ? undefined : value
  }

  explain(name: string): { cause: string; remedy: string } | undefined {
    if (name.startsWith('next ')) {
      const of = name.slice(5)
      if (this.beforeStep && this.variables.has(of))
        return {
          cause: `What ${of} will be is worked out after an action is taken, and this line says which can be taken.`,
          remedy: 'Write the condition from the state and the level, as in: when lanterns + order <= shelf.',
        }
      return this.variables.has(of)
        ? { cause: `What ${of} will be is not said above this line.`, remedy: `Put “next ${of} = …” above.` }
        : undefined
    }
    if (this.beforeStep && this.stepNames.has(name))
      return {
        cause: `“${name}” depends on the action or on chance: it is worked out after an action is taken, and this line says which can be taken.`,
        remedy: 'Write the condition from the state and the level, as in: when lanterns + order <= shelf.',
      }
    if (Object.hasOwn(TRUTHS, name))
      return { cause: `“${name}” is not a word of the language.`, remedy: `Write ${TRUTHS[name]}.` }
    const own = this.functions.get(name)
    if (own)
      return {
        cause: `“${name}” is a function.`,
        remedy: `Write ${name}(${own.parameters.map(({ text }) => text).join(', ')}), with values in their place.`,
      }
    if (name === this.defining)
      return {
        cause: `“${name}” stands in its own definition.`,
        remedy: `Compute it from other names; what a state variable will be stands in “next ${name} = …”.`,
      }
    if (this.declared.has(name)) return { cause: notYet(name)[0], remedy: notYet(name)[1] }
    if (name === 'action')
      return { cause: 'There are no actions yet.', remedy: 'Put the action lines above.' }
    if (Object.hasOwn(FUNCTIONS, name))
      return { cause: `“${name}” is a function.`, remedy: `Write ${FUNCTIONS[name].form}.` }
    return undefined
  }

  wordText(word: number): string {
    return this.words.texts[word]
  }

  names(): Iterable<string> {
    return [...this.values.keys(), ...this.functions.keys(), ...this.words.texts]
  }

  /** Notes all names and words of the text before anything else, so that it can be said where one is declared. */
  private collectNames(): void {
    const names = new Map<string, Span>()
    for (const rule of this.rules)
      if ('name' in rule && rule.type !== 'next') names.set(rule.name.text, rule.name)
    for (const rule of this.rules) for (const name of valueNames(rule)) names.set(name.text, name)
    const word = (expression: Expression) => {
      if (expression.type === 'name' && !names.has(expression.name)) this.words.add(expression.name)
    }
    for (const rule of this.rules) {
      if (rule.type === 'state' && rule.domain.type === 'set') rule.domain.items.forEach(word)
      if (rule.type === 'action') {
        this.words.add(rule.name.text)
        for (const levels of [rule.levels, ...rule.parts.map((part) => part.levels)])
          if (levels?.type === 'set') levels.items.forEach(word)
      }
      if (rule.type === 'chance') rule.distribution.cases.forEach(({ value }) => word(value))
      if (rule.type === 'table')
        for (const item of rule.items) if (item.type === 'list') item.keys?.forEach(word)
      if (rule.type === 'table')
        rule.words?.forEach((each) => {
          if (!names.has(each.text)) this.words.add(each.text)
        })
      for (const name of valueNames(rule))
        if (!this.declared.has(name.text)) this.declared.set(name.text, name)
    }
  }

  /** Gives a name its value; a name has one meaning in a rulebook. */
  define(name: Name, value: Value): void {
    // The first meaning stays, so that what was made of it still fits.
    if (this.refuseTaken(name) && this.values.has(name.text)) return
    this.values.set(name.text, value)
  }

  /** @returns whether the name is declared by another line */
  private refuseTaken(name: Name): boolean {
    const other = this.declared.get(name.text)
    if (other && other.from !== name.from) {
      this.expressions.fault(
        name,
        `“${name.text}” is declared twice.`,
        'Choose another name for one of them.',
      )
      return true
    }
    if (this.words.find(name.text) !== undefined && !this.groups.includes(name.text))
      this.expressions.fault(
        name,
        `“${name.text}” is a word already: a value of a state, an action or a table.`,
        'Choose another name.',
      )
    return false
  }

  /** Declares a function. */
  defineFunction({ name, parameters, value }: RuleOf<'let'>): void {
    if (Object.hasOwn(FUNCTIONS, name.text))
      this.expressions.fault(name, `“${name.text}” is a function of the language.`, 'Choose another name.')
    const twice = parameters!.find(({ text }, i) => parameters!.findIndex((each) => each.text === text) < i)
    if (twice)
      this.expressions.fault(
        twice,
        `Two parameters are called “${twice.text}”.`,
        'Give each a name of its own.',
      )
    this.refuseTaken(name)
    if (
      mentionsOf(value).names.has(name.text) &&
      !parameters!.some((parameter) => parameter.text === name.text)
    )
      this.expressions.fault(
        name,
        `“${name.text}” stands in its own definition.`,
        'A function cannot call itself: write out what it computes.',
      )
    if (!this.functions.has(name.text))
      this.functions.set(name.text, { name, parameters: parameters!, value })
  }

  slots(count: number): number {
    const first = this.frameSize
    this.frameSize += count
    return first
  }

  /** A value computed once and kept in the frame, where it is needed more than once. */
  kept(expression: Expression, name: string): Value {
    this.defining = name
    const value = this.expressions.value(expression)
    this.defining = undefined
    if (depthOf(value) >= BY_ACTION) this.stepNames.add(name)
    const keep = (item: Scalar): Scalar => (item.depth === CONSTANT ? item : this.keep(item, expression))
    return isList(value) ? { ...value, items: value.items.map(keep) } : keep(value)
  }

  private keep(value: Scalar, span: Span, slot = this.slots(1)): Scalar {
    const operation = { ...spanOf(span), slot, value }
    if (value.depth <= BY_STATE) this.byState.push(operation)
    else this.operations[value.depth].push(operation)
    return slotValue(slot, value.type, Math.max(value.depth, BY_STATE))
  }

  /** Puts the lines of a variable together: the first that holds for an item counts, otherwise it stays as it is. */
  settle(variable: Variable): Value {
    const known = this.settled.get(variable.name)
    if (known) return known
    const parts = this.nexts.get(variable.name) ?? []
    const items = variable.dimensions.map((dimension, i) => {
      let result: Scalar = slotValue(dimension.slot, dimension.type, BY_STATE)
      for (const part of [...parts].reverse()) {
        const item = part.items[i]
        const when = conditionAt(part, i)
        const rest = result
        result = when
          ? derived(joinTypes(item.type, rest.type) ?? item.type, [when, item, rest], (frame) =>
              when.run(frame) ? item.run(frame) : rest.run(frame),
            )
          : item
      }
      const span = parts.at(-1)?.span ?? variable
      // Held in the frame even when constant: the machine reads all of them there.
      return this.keep(
        result.depth < BY_STATE ? { ...result, depth: BY_STATE } : result,
        span,
        dimension.nextSlot,
      )
    })
    const value: Value = variable.isList ? { items } : items[0]
    this.settled.set(variable.name, value)
    return value
  }

  /** One value an item of a variable: a single value fills a list. */
  spread(value: Value, variable: Variable, span: Span): readonly Scalar[] {
    if (!isList(value)) return variable.dimensions.map(() => value)
    if (variable.isList && value.items.length === variable.dimensions.length) return value.items
    this.expressions.fault(
      span,
      `This is ${typeName(value)}, and ${variable.name} is ${variable.isList ? `a list of ${variable.dimensions.length}` : 'a single value'}.`,
      'Give as many values as it has.',
    )
    return variable.dimensions.map(() => UNKNOWN)
  }

  /** Tells when a value can never be one of a dimension's. */
  fits(dimension: Dimension, type: ScalarType, span: Span): boolean {
    const wanted = dimension.type
    const say = (cause: string, remedy: string) => {
      this.expressions.fault(span, cause, remedy)
      return false
    }
    if (type.kind === 'unknown') return false
    const joined = joinTypes(wanted, type)
    const called = `${dimension.name} is ${dimension.kind === 'words' ? `one of ${dimension.texts.join(', ')}` : dimension.kind === 'truth' ? 'yes or no' : 'a number'}`
    if (!joined)
      return say(`${called}, and this is ${typeName({ ...UNKNOWN, type })}.`, 'Use a value of its kind.')
    if (wanted.kind === 'word' && type.kind === 'word') {
      const other = type.words.find((word) => !wanted.words.includes(word))
      if (other !== undefined) {
        const meant = nearestName(this.words.texts[other], dimension.texts)
        return say(
          `${called}, and this can be ${this.words.texts[other]}.`,
          meant ? `Did you mean “${meant}”?` : 'Use its words, or add this one to it.',
        )
      }
    }
    if (wanted.kind === 'number' && type.kind === 'number') {
      if (dimension.kind === 'whole' && !type.whole)
        return say(
          `${dimension.name} is a whole number, and this need not be one.`,
          'Use round, floor or ceil.',
        )
      if (type.high < wanted.low || type.low > wanted.high)
        return say(
          `${dimension.name} goes from ${wanted.low} to ${wanted.high}, and this is ${type.low === type.high ? type.low : `${type.low} to ${type.high}`}.`,
          'Widen its range, or change the number.',
        )
      if (dimension.kind === 'set' && type.low === type.high && indexOfValue(dimension, type.low) < 0)
        return say(
          `${dimension.name} is one of ${dimension.texts.join(', ')}, and this is ${type.low}.`,
          'Use one of its values.',
        )
    }
    return true
  }

  /** Tells when a value can be none of a part's. @returns whether it is refused */
  refuseOtherKind(part: string, value: Scalar, span: Span): boolean {
    const { type } = this.values.get(part) as Scalar
    const joined = joinTypes(type, value.type)
    if (
      joined &&
      (type.kind !== 'word' || joined.kind !== 'word' || joined.words.length === type.words.length)
    )
      return false
    this.expressions.fault(
      span,
      type.kind === 'word'
        ? `“${part}” is one of ${type.words.map((word) => this.wordText(word)).join(', ')}, and this is ${value.type.kind === 'word' ? 'another word' : typeName(value)}.`
        : `“${part}” is ${typeName({ ...UNKNOWN, type })}, and this is ${typeName(value)}.`,
      'Use a value of its kind.',
    )
    return true
  }

  /** A condition that must be known from the state alone (or, for levels, from the action). */
  stateTruth(expression: Expression, depth: number): Scalar {
    const value = this.expressions.truth(expression)
    if (value.depth > depth)
      return this.expressions.fault(
        expression,
        'This depends on more than the state.',
        'Use state variables, knobs, tables and lets made of them. For steps that end an episode write “end after”.',
      )
    return value
  }

  unknownVariable(name: Name): void {
    const meant = nearestName(name.text, this.variables.keys())
    const later = this.explain(name.text)
    this.expressions.fault(
      name,
      later?.cause ?? `There is no state variable “${name.text}”.`,
      later?.remedy ??
        (meant ? `Did you mean “${meant}”?` : `Declare it above: state ${name.text} from 0 to 10.`),
    )
  }

  *declaredVariables(): Iterable<string> {
    for (const rule of this.rules) if (rule.type === 'state') yield rule.name.text
  }
}

/** The names that a rule gives a value. */
function valueNames(rule: Rule): readonly Name[] {
  if (!('name' in rule) || rule.type === 'next') return []
  if (rule.type !== 'action') return [rule.name]
  return [...(rule.levels ? [rule.name] : []), ...rule.parts.map(({ name }) => name)]
}

/** A number without the dust of rounding. */
export function tidy(x: number): number {
  return Number(x.toPrecision(12))
}

/** When a line speaks of an item; undefined when it always does. */
function conditionAt({ place, when }: NextPart, i: number): Scalar | undefined {
  if (!place) return when
  const [at, holds] = [place.run, when?.run]
  return derived(TRUTH, when ? [when, place] : [place], (frame) =>
    (!holds || holds(frame)) && at(frame) === i + 1 ? 1 : 0,
  )
}
