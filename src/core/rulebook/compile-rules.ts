import { DISTRIBUTIONS, isPmfFault, OUTCOME_LIMIT, type Cut } from './distributions'
import { ExpressionCompiler, type Scope } from './expressions'
import { FUNCTIONS } from './functions'
import { nearestName, type Fault, type Span } from './place'
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
import { RESERVED } from './reader'
import type { Distribution, Domain, Expression, Levels, Name, Rule, RuleOf } from './syntax'
import {
  BY_ACTION,
  BY_STATE,
  CONSTANT,
  constantNumber,
  constantWord,
  depthOf,
  derived,
  isList,
  joinTypes,
  numberType,
  slotValue,
  TRUTH,
  typeName,
  UNKNOWN,
  Words,
  type Scalar,
  type ScalarType,
  type Value,
} from './values'
import { RuleFault } from './place'
import { bucketWidth, dimensionType, indexOfValue, type Dimension, type Variable } from './variables'

const LIST_LIMIT = 40
const SIZE_LIMIT = 100_000
const CHOICE_LIMIT = 2000
/** Values that variables can take together, at the most; fewer may be reachable. */
export const COMBINATION_LIMIT = 1e9

interface NextPart {
  readonly value: Value
  readonly when?: Scalar
  readonly span: Span
}

/**
 * Checks the rules and turns them into a program, in the order in which they stand: a rule may use what stands above
 * it. Faults are told and the work goes on, so that many are told at once.
 *
 * @param settings  knobs set to another value than the text says
 * @returns the program, or null when there was any fault
 */
export function compileRules(
  rules: readonly Rule[],
  settings: Readonly<Record<string, number>>,
  faults: Fault[],
): Program | null {
  return new RuleCompiler(rules, settings, faults).compile()
}

class RuleCompiler implements Scope {
  private readonly expressions: ExpressionCompiler
  private readonly words = new Words()
  private readonly values = new Map<string, Value>()
  /** Where each name is declared, in the whole text. */
  private readonly declared = new Map<string, Span>()
  private readonly variables = new Map<string, Variable>()
  private readonly nexts = new Map<string, NextPart[]>()
  private readonly settled = new Map<string, Value>()
  private readonly knobs: Knob[] = []
  private readonly starts: StartRule[] = []
  private readonly groups: string[] = []
  private readonly choices: Choice[] = []
  private readonly levelSlots = new Map<string, number>()
  private readonly byState: Operation[] = []
  private readonly operations: Operation[][] = [[]]
  private readonly rewards: Guarded[][] = [[]]
  private readonly chances: ChanceStep[] = []
  private readonly endings: { condition: Scalar; span: Span }[] = []
  private readonly endsAfter: Titled[] = []
  private readonly measures: Titled[] = []
  private readonly checks: Titled[] = []
  private readonly policies: PolicyRule[] = []
  private readonly actionSlot: number
  private readonly passWord: number
  private observe: Scalar[] | null = null
  private pass: Program['pass'] = null
  private treatment: RuleOf<'impossible'> | undefined
  private penalty: Scalar | null = null
  private frameSize = 0
  /** The name that is being defined, which must not stand in its own definition. */
  private defining: string | undefined
  /** Some states pass by themselves: `action` can then be `pass`. */
  private readonly passes: boolean

  constructor(
    private readonly rules: readonly Rule[],
    private readonly settings: Readonly<Record<string, number>>,
    private readonly faults: Fault[],
  ) {
    this.expressions = new ExpressionCompiler(this, faults)
    this.actionSlot = this.frameSize++
    this.collectNames()
    this.passWord = this.words.add('pass')
    this.passes = this.rules.some((rule) => rule.type === 'pass')
  }

  compile(): Program | null {
    // A start speaks of all variables, wherever they stand.
    for (const rule of this.rules) if (rule.type !== 'start') this.rule(rule)
    for (const rule of this.rules) if (rule.type === 'start') this.rule(rule)
    const variables = [...this.variables.values()]
    for (const variable of variables) this.settle(variable)
    this.refuseMissing(variables)
    if (this.faults.length) return null
    return {
      knobs: this.knobs,
      words: this.words,
      frameSize: this.frameSize,
      variables,
      starts: this.starts,
      actionSlot: this.actionSlot,
      passWord: this.passWord,
      levelSlots: [...this.levelSlots.values()],
      choices: this.choices,
      groups: this.groups,
      actionSpan: spanOf(this.rules.find((rule) => rule.type === 'action')!),
      byState: this.byState,
      operations: this.operations,
      rewards: this.rewards,
      chances: this.chances,
      endings: this.endings,
      endsAfter: this.endsAfter,
      measures: this.measures,
      checks: this.checks,
      policies: this.policies,
      observe: this.observe,
      observeSpan: this.rules.find((rule) => rule.type === 'observe'),
      pass: this.pass,
      treatment: this.treatment?.treatment ?? 'forbidden',
      penalty: this.penalty,
      nextSpans: variables.flatMap((variable) =>
        variable.dimensions.map(() => this.nexts.get(variable.name)?.at(-1)?.span ?? variable),
      ),
    }
  }

  // ---- names ----------------------------------------------------------------------------------------------------

  find(name: string): Value | undefined {
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
    if (value) return value
    const word = this.words.find(name)
    return word === undefined || this.declared.has(name) ? undefined : constantWord(word)
  }

  findAction(name: string): Scalar | undefined {
    return this.groups.includes(name) ? constantWord(this.words.find(name)!) : undefined
  }

  findNext(name: string): Value | undefined {
    const variable = this.variables.get(name)
    return variable && this.nexts.has(name) ? this.settle(variable) : undefined
  }

  explain(name: string): { cause: string; remedy: string } | undefined {
    if (name.startsWith('next ')) {
      const of = name.slice(5)
      return this.variables.has(of)
        ? { cause: `What ${of} will be is not said above this line.`, remedy: `Put “next ${of} = …” above.` }
        : undefined
    }
    if (name === this.defining)
      return {
        cause: `“${name}” stands in its own definition.`,
        remedy: `Compute it from other names; what a state variable will be stands in “next ${name} = …”.`,
      }
    if (this.declared.has(name))
      return {
        cause: `“${name}” is not known here yet: its line stands further down.`,
        remedy: 'Move that line up, above the first line that uses it.',
      }
    if (name === 'action')
      return { cause: 'There are no actions yet.', remedy: 'Put the action lines above.' }
    if (Object.hasOwn(FUNCTIONS, name))
      return { cause: `“${name}” is a function.`, remedy: `Write ${FUNCTIONS[name].form}.` }
    return undefined
  }

  names(): Iterable<string> {
    return [...this.values.keys(), ...this.words.texts]
  }

  /** Notes all names and words of the text before anything else, so that it can be said where one is declared. */
  private collectNames(): void {
    const names = new Map<string, Span>()
    for (const rule of this.rules)
      if ('name' in rule && rule.type !== 'next') names.set(rule.name.text, rule.name)
    const word = (expression: Expression) => {
      if (expression.type === 'name' && !names.has(expression.name)) this.words.add(expression.name)
    }
    for (const rule of this.rules) {
      if (rule.type === 'state' && rule.domain.type === 'set') rule.domain.items.forEach(word)
      if (rule.type === 'action') {
        this.words.add(rule.name.text)
        if (rule.levels?.type === 'set') rule.levels.items.forEach(word)
      }
      if (rule.type === 'chance') rule.distribution.cases.forEach(({ value }) => word(value))
      if (rule.type === 'table')
        rule.words?.forEach((each) => {
          if (!names.has(each.text)) this.words.add(each.text)
        })
      if ('name' in rule && rule.type !== 'next' && !this.declared.has(rule.name.text))
        if (rule.type !== 'action' || rule.levels) this.declared.set(rule.name.text, rule.name)
    }
  }

  /** Gives a name its value; a name has one meaning in a rulebook. */
  private define(name: Name, value: Value): void {
    const other = this.declared.get(name.text)
    if (other && other.from !== name.from)
      this.expressions.fault(
        name,
        `“${name.text}” is declared twice.`,
        'Choose another name for one of them.',
      )
    else if (this.words.find(name.text) !== undefined && !this.groups.includes(name.text))
      this.expressions.fault(
        name,
        `“${name.text}” is a word already: a value of a state, an action or a table.`,
        'Choose another name.',
      )
    this.values.set(name.text, value)
  }

  private slots(count: number): number {
    const first = this.frameSize
    this.frameSize += count
    return first
  }

  // ---- rules ----------------------------------------------------------------------------------------------------

  private rule(rule: Rule): void {
    switch (rule.type) {
      case 'knob':
        return this.knob(rule)
      case 'table':
        return this.table(rule)
      case 'state':
        return this.state(rule)
      case 'start':
        return this.start(rule)
      case 'action':
        return this.action(rule)
      case 'chance':
        return this.chance(rule)
      case 'let':
        return this.define(rule.name, this.kept(rule.value, rule.name.text))
      case 'measure':
        return this.measure(rule)
      case 'reward':
        return this.reward(rule)
      case 'next':
        return this.next(rule)
      case 'end':
        return this.end(rule)
      case 'check':
        this.checks.push({
          ...spanOf(rule),
          title: rule.title,
          value: this.expressions.truth(rule.condition),
        })
        return
      case 'policy':
        return this.policy(rule)
      case 'observe':
        return this.observation(rule)
      case 'pass':
        return this.passing(rule)
      case 'impossible':
        return this.impossible(rule)
    }
  }

  private knob(rule: RuleOf<'knob'>): void {
    const [standard, low, high] = [rule.value, rule.low, rule.high].map((each) =>
      this.expressions.constant(each, 0),
    )
    const whole = [standard, low, high].every(Number.isInteger)
    const step = rule.by ? this.expressions.constant(rule.by, 1) : whole ? 1 : tidy((high - low) / 100)
    const value = Object.hasOwn(this.settings, rule.name.text) ? this.settings[rule.name.text] : standard
    if (!(low < high))
      this.expressions.fault(rule.low, `The range goes from ${low} to ${high}.`, 'Put the lower end first.')
    else if (!(step > 0)) this.expressions.fault(rule.by!, `The step is ${step}.`, 'Use a step above 0.')
    else if (!(standard >= low && standard <= high))
      this.expressions.fault(
        rule.value,
        `${standard} is not in the range ${low} to ${high}.`,
        'Widen the range or change the number.',
      )
    else if (!(value >= low && value <= high))
      this.expressions.fault(
        rule.name,
        `The knob is set to ${value}; its range is ${low} to ${high}.`,
        'Turn it back, or widen the range.',
      )
    else if (whole && Number.isInteger(step) && !Number.isInteger(value))
      this.expressions.fault(
        rule.name,
        `The knob is set to ${value}, and takes whole numbers.`,
        'Turn it to a whole number.',
      )
    this.knobs.push({ ...spanOf(rule.name), name: rule.name.text, value, standard, low, high, step })
    this.define(rule.name, constantNumber(value))
  }

  private table(rule: RuleOf<'table'>): void {
    const items = rule.items.map((item) => constantNumber(this.expressions.constant(item, 0)))
    const first = rule.first ? this.expressions.constant(rule.first, 1) : 1
    if (!Number.isInteger(first))
      this.expressions.fault(rule.first!, `The first place is ${first}.`, 'Use a whole number.')
    const words = rule.words?.map((word) => this.words.find(word.text) ?? -1)
    rule.words?.forEach((word, i) => {
      if (words![i] < 0)
        this.expressions.fault(word, `“${word.text}” is a name, not a word.`, 'Use another word.')
      else if (words!.indexOf(words![i]) < i)
        this.expressions.fault(word, `“${word.text}” stands here twice.`, 'Leave one out.')
    })
    this.define(rule.name, { items, first, words })
  }

  private state(rule: RuleOf<'state'>): void {
    const length = rule.length ? this.expressions.constant(rule.length, 1) : 1
    if (!(Number.isInteger(length) && length >= 1 && length <= LIST_LIMIT)) {
      this.expressions.fault(rule.length!, `The list has ${length} items.`, `Use 1 to ${LIST_LIMIT}.`)
      this.values.set(rule.name.text, UNKNOWN)
      return
    }
    const shape = this.domain(rule.domain)
    const dimensions: Dimension[] = []
    for (let i = 0; i < length; i++) {
      const partial = {
        ...shape,
        name: rule.length ? `${rule.name.text}[${i + 1}]` : rule.name.text,
        slot: this.slots(1),
        nextSlot: this.slots(1),
      }
      dimensions.push({ ...partial, type: dimensionType(partial) })
    }
    const items = dimensions.map(({ slot, type }) => slotValue(slot, type, BY_STATE))
    this.define(rule.name, rule.length ? { items } : items[0])
    this.variables.set(rule.name.text, {
      ...spanOf(rule),
      name: rule.name.text,
      isList: rule.length !== undefined,
      dimensions,
    })
  }

  private domain(domain: Domain): Omit<Dimension, 'name' | 'slot' | 'nextSlot' | 'type'> {
    const none = { low: 0, high: 0, values: [], nearest: false }
    switch (domain.type) {
      case 'truth':
        return { ...none, kind: 'truth', size: 2, texts: ['no', 'yes'] }
      case 'set':
        return { ...none, ...this.setDomain(domain.items) }
      case 'range': {
        const low = this.expressions.constant(domain.from, 0)
        const high = this.expressions.constant(domain.to, 0)
        const count = high - low + 1
        if (!(Number.isInteger(low) && Number.isInteger(high) && low <= high)) {
          this.expressions.fault(
            { from: domain.from.from, to: domain.to.to },
            `The range goes from ${low} to ${high}.`,
            'Use whole numbers, the lower first; for real numbers add “in 20 buckets”.',
          )
          return { ...none, kind: 'whole', low, high: low, size: 1, texts: [String(low)] }
        }
        this.refuseSize(count, domain.to)
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
        const low = this.expressions.constant(domain.from, 0)
        const high = this.expressions.constant(domain.to, 1)
        const count = this.expressions.constant(domain.count, 1)
        if (!(low < high))
          this.expressions.fault(
            domain.from,
            `The range goes from ${low} to ${high}.`,
            'Put the lower end first.',
          )
        if (!(Number.isInteger(count) && count >= 1))
          this.expressions.fault(domain.count, `There are ${count} buckets.`, 'Use a whole number from 1.')
        else this.refuseSize(count, domain.count)
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

  private refuseSize(count: number, span: Span): void {
    if (count > SIZE_LIMIT)
      this.expressions.fault(
        span,
        `This variable has ${count} values.`,
        `Use at most ${SIZE_LIMIT}; buckets thin it out.`,
      )
  }

  private setDomain(items: readonly Expression[]): {
    kind: 'set' | 'words'
    size: number
    values: number[]
    texts: string[]
  } {
    const values = items.map((item) => this.expressions.scalar(item))
    const words = values.every((value) => value.type.kind === 'word')
    const numbers: number[] = []
    const texts: string[] = []
    values.forEach((value, i) => {
      const number = value.constant
      if (value.type.kind === 'unknown') return
      if (number === undefined || (!words && value.type.kind !== 'number'))
        this.expressions.fault(
          items[i],
          'The values are words, or numbers known before anything runs.',
          'Write low, high or 1, 2, 5.',
        )
      else if (numbers.includes(number))
        this.expressions.fault(items[i], 'This value stands here twice.', 'Leave one out.')
      else {
        numbers.push(number)
        texts.push(words ? this.words.texts[number] : String(number))
      }
    })
    if (!numbers.length) return { kind: 'set', size: 1, values: [0], texts: ['0'] }
    return { kind: words ? 'words' : 'set', size: numbers.length, values: numbers, texts }
  }

  private start(rule: RuleOf<'start'>): void {
    const parts: StartRule['parts'][number][] = []
    const said = new Set<string>()
    for (const assignment of rule.assignments) {
      const { name } = assignment
      const variable = this.variables.get(name.text)
      if (!variable) {
        this.unknownVariable(name)
        continue
      }
      if (said.has(name.text))
        this.expressions.fault(name, `${name.text} stands here twice.`, 'Leave one out.')
      said.add(name.text)
      if ('distribution' in assignment) {
        const pmf = this.constantPmf(assignment.distribution)
        if (variable.isList)
          this.expressions.fault(
            name,
            'The items of a list cannot be drawn together.',
            'Give each with = […], or scramble the start: then 5 random actions.',
          )
        else if (pmf) {
          this.fits(variable.dimensions[0], pmf.type, assignment.distribution)
          parts.push({ slot: variable.dimensions[0].slot, ...pmf })
        }
        continue
      }
      const value = this.expressions.value(assignment.value)
      const items = this.spread(value, variable, assignment.value)
      items.forEach((item, i) => {
        const dimension = variable.dimensions[i]
        if (item.type.kind === 'unknown') return
        if (item.constant === undefined)
          this.expressions.fault(
            assignment.value,
            'This must be known before anything runs.',
            'Use numbers, words and knobs; draw with ~.',
          )
        else if (this.fits(dimension, item.type, assignment.value))
          parts.push({ slot: dimension.slot, values: [item.constant], chances: [1] })
      })
    }
    const missing = [...this.declaredVariables()].filter((name) => !said.has(name))
    if (missing.length)
      this.expressions.fault(
        { from: rule.from, to: rule.from + 5 },
        `The start does not say what ${missing.join(', ')} ${missing.length > 1 ? 'are' : 'is'}.`,
        `Add ${missing.map((name) => `${name} = …`).join(', ')}.`,
      )
    const weight = rule.weight ? this.expressions.constant(rule.weight, 1) : 1
    if (!(weight > 0 && weight < 1e9))
      this.expressions.fault(rule.weight!, `The weight is ${weight}.`, 'Use a number above 0.')
    const scramble = rule.scramble ? this.expressions.constant(rule.scramble, 0) : 0
    if (!(Number.isInteger(scramble) && scramble >= 0 && scramble <= 100))
      this.expressions.fault(
        rule.scramble!,
        `It says ${scramble} random actions.`,
        'Use a whole number from 0 to 100.',
      )
    this.starts.push({ ...spanOf(rule), parts, weight, scramble })
  }

  private *declaredVariables(): Iterable<string> {
    for (const rule of this.rules) if (rule.type === 'state') yield rule.name.text
  }

  /** One value an item of a variable: a single value fills a list. */
  private spread(value: Value, variable: Variable, span: Span): readonly Scalar[] {
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
  private fits(dimension: Dimension, type: ScalarType, span: Span): boolean {
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
      if (other !== undefined)
        return say(
          `${called}, and this can be ${this.words.texts[other]}.`,
          'Use its words, or add this one to it.',
        )
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

  private action(rule: RuleOf<'action'>): void {
    const { name } = rule
    if (this.groups.includes(name.text)) {
      this.expressions.fault(name, `The action “${name.text}” is declared twice.`, 'Leave one out.')
      return
    }
    if (!rule.levels && this.values.has(name.text)) {
      this.expressions.fault(
        name,
        `“${name.text}” is declared already.`,
        'Choose another name for the action.',
      )
      return
    }
    this.groups.push(name.text)
    const group = this.groups.length - 1
    const action = this.words.add(name.text)
    const given = rule.given.flatMap(({ name: of, value }) => {
      const slot = this.levelSlots.get(of.text)
      const constant = this.expressions.constant(value, 0)
      if (slot !== undefined) return [{ slot, value: constant }]
      this.expressions.fault(
        of,
        `“${of.text}” is no action with numbers above this line.`,
        'Put its line above.',
      )
      return []
    })
    if (!rule.levels) {
      const when = rule.when && this.stateTruth(rule.when, BY_STATE)
      this.choices.push({ label: name.text, group, action, level: NaN, given, when })
      return
    }
    const slot = this.slots(1)
    this.levelSlots.set(name.text, slot)
    const { values, words } = this.levels(rule.levels)
    this.define(name, this.levelValue(name, slot, values, words))
    const when = rule.when && this.stateTruth(rule.when, BY_ACTION)
    values.forEach((value) => {
      const text = words ? this.words.texts[value] : String(value)
      this.choices.push({
        label: `${name.text} ${text}`,
        group,
        action,
        level: words ? NaN : value,
        given: [...given, { slot, value }],
        when,
      })
    })
    if (this.choices.length > CHOICE_LIMIT)
      this.expressions.fault(
        name,
        `There are ${this.choices.length} actions.`,
        `Thin them out: “in 11 levels”. At most ${CHOICE_LIMIT}.`,
      )
  }

  /** The level of an action, which has no value while another action is taken. */
  private levelValue(name: Name, slot: number, values: readonly number[], words: boolean): Scalar {
    const given = this.rules.some(
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

  private levels(levels: Levels): { values: number[]; words: boolean } {
    if (levels.type === 'set') {
      const { kind, values } = this.setDomain(levels.items)
      return { values, words: kind === 'words' }
    }
    const low = this.expressions.constant(levels.from, 0)
    const high = this.expressions.constant(levels.to, 0)
    const span = { from: levels.from.from, to: levels.to.to }
    if (!(low <= high)) {
      this.expressions.fault(span, `The levels go from ${low} to ${high}.`, 'Put the lower end first.')
      return { values: [low], words: false }
    }
    const whole = Number.isInteger(low) && Number.isInteger(high)
    if (levels.count) {
      const count = this.expressions.constant(levels.count, 2)
      if (!(Number.isInteger(count) && count >= 2 && count <= CHOICE_LIMIT)) {
        this.expressions.fault(levels.count, `There are ${count} levels.`, `Use 2 to ${CHOICE_LIMIT}.`)
        return { values: [low], words: false }
      }
      const spread = Array.from({ length: count }, (_, i) => {
        const level = low + ((high - low) * i) / (count - 1)
        // Whole where there are whole numbers enough, so that 0 to 5000 in 7 levels makes no fractions.
        return whole && high - low >= count - 1 ? Math.floor(level + 0.5) : Number(level.toPrecision(12))
      })
      return { values: [...new Set(spread)], words: false }
    }
    const by = levels.by ? this.expressions.constant(levels.by, 1) : 1
    const count = Math.floor((high - low) / by + 1e-9) + 1
    if (!(by > 0) || !(count <= CHOICE_LIMIT)) {
      this.expressions.fault(
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

  private chance(rule: RuleOf<'chance'>): void {
    const { name, distribution } = rule
    const length = rule.length ? this.expressions.constant(rule.length, 1) : 1
    if (!(Number.isInteger(length) && length >= 1 && length <= LIST_LIMIT)) {
      this.expressions.fault(rule.length!, `The list has ${length} items.`, `Use 1 to ${LIST_LIMIT}.`)
      this.values.set(name.text, UNKNOWN)
      return
    }
    const drawn = this.draw(distribution)
    const items: Scalar[] = []
    for (let i = 0; i < length && drawn; i++) {
      const slot = this.slots(1)
      const { type } = drawn
      this.chances.push({
        ...spanOf(distribution),
        name: rule.length ? `${name.text}[${i + 1}]` : name.text,
        slot,
        draw: drawn.draw,
        write: (value) => this.write(type, value),
      })
      this.operations.push([])
      this.rewards.push([])
      items.push(slotValue(slot, type, this.chances.length))
    }
    this.define(name, !drawn ? UNKNOWN : rule.length ? { items } : items[0])
  }

  private write(type: ScalarType, value: number): string {
    if (type.kind === 'word') return this.words.texts[value]
    if (type.kind === 'truth') return value ? 'yes' : 'no'
    return String(value)
  }

  private draw(distribution: Distribution): { draw: ChanceStep['draw']; type: ScalarType } | undefined {
    const { callee } = distribution
    const span = spanOf(distribution)
    if (callee.text === 'pick') return this.pick(distribution)
    const kind = Object.hasOwn(DISTRIBUTIONS, callee.text) ? DISTRIBUTIONS[callee.text] : undefined
    if (!kind) {
      const known = [...Object.keys(DISTRIBUTIONS), 'pick']
      const meant = nearestName(callee.text, known)
      this.expressions.fault(
        callee,
        `There is no distribution “${callee.text}”.`,
        meant ? `Did you mean “${meant}”?` : `The distributions are ${known.join(', ')}.`,
      )
      return undefined
    }
    if (distribution.cases.length || distribution.args.length !== kind.parameters.length) {
      this.expressions.fault(
        span,
        `${callee.text} takes the ${kind.parameters.join(' and the ')}.`,
        `Write ${kind.form}.`,
      )
      return undefined
    }
    const parameters = distribution.args.map((arg) => this.expressions.number(arg))
    const cut = this.cut(distribution, kind.cut)
    if (!cut || parameters.some(({ type }) => type.kind === 'unknown')) return undefined
    const lows = parameters.map(({ type }) => (type.kind === 'number' ? type.low : 0))
    const highs = parameters.map(({ type }) => (type.kind === 'number' ? type.high : 0))
    if (parameters.every(({ constant }) => constant !== undefined)) {
      const pmf = kind.make(
        parameters.map(({ constant }) => constant!),
        cut,
      )
      if (isPmfFault(pmf)) {
        this.expressions.fault(span, pmf.cause, pmf.remedy)
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

  private cut(distribution: Distribution, allowed: 'none' | 'allowed' | 'needed'): Cut | undefined {
    const { low, high, callee } = distribution
    if (allowed === 'needed' && !low) {
      this.expressions.fault(distribution, `${callee.text} needs its ends.`, 'Write from 0 to 40 after it.')
      return undefined
    }
    if (allowed === 'none' && high) {
      this.expressions.fault(high, `${callee.text} cannot be cut off.`, 'Leave out what comes after ).')
      return undefined
    }
    const cut = {
      low: low && this.expressions.constant(low, 0),
      high: high && this.expressions.constant(high, 0),
    }
    const from = cut.low ?? 0
    const to = cut.high ?? from
    if (!(Number.isInteger(from) && Number.isInteger(to) && from <= to && to - from < OUTCOME_LIMIT)) {
      this.expressions.fault(
        high ?? distribution,
        `It is cut off to ${from} … ${to}.`,
        `Use whole numbers, the lower first, at most ${OUTCOME_LIMIT} of them.`,
      )
      return undefined
    }
    return cut
  }

  private pick(distribution: Distribution): { draw: ChanceStep['draw']; type: ScalarType } | undefined {
    const { cases, args, high } = distribution
    if (args.length || !cases.length || high) {
      this.expressions.fault(
        distribution,
        'pick names its values and their chances.',
        'Write pick(dry: 0.3, damp: 0.5, wet: rest).',
      )
      return undefined
    }
    if (cases.filter(({ chance }) => chance === null).length > 1) {
      this.expressions.fault(distribution, 'Two of the values take the rest.', 'Give one of them a chance.')
      return undefined
    }
    const values = cases.map(({ value }) => this.expressions.scalar(value))
    const chances = cases.map(({ chance }) => chance && this.expressions.number(chance))
    const type = values
      .map((value) => value.type)
      .reduce<ScalarType | undefined>((one, other) => one && joinTypes(one, other), { kind: 'unknown' })
    if (!type) {
      this.expressions.fault(
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
      this.expressions.fault(
        distribution,
        `The chances sum to ${tidy(total)}.`,
        open ? 'Leave something for the rest.' : 'Make them sum to 1, or write rest for one of them.',
      )
      return undefined
    }
    return { draw: { type: 'pick', values, chances }, type }
  }

  /** A draw that depends on nothing, for a start. */
  private constantPmf(distribution: Distribution) {
    const drawn = this.draw(distribution)
    if (!drawn) return undefined
    const { draw, type } = drawn
    const inputs =
      draw.type === 'pick'
        ? [...draw.values, ...draw.chances.filter((chance) => chance !== null)]
        : draw.parameters
    if (inputs.some(({ constant }) => constant === undefined)) {
      this.expressions.fault(
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

  /** A value computed once and kept in the frame, where it is needed more than once. */
  private kept(expression: Expression, name: string): Value {
    this.defining = name
    const value = this.expressions.value(expression)
    this.defining = undefined
    const keep = (item: Scalar): Scalar => (item.depth === CONSTANT ? item : this.keep(item, expression))
    return isList(value) ? { ...value, items: value.items.map(keep) } : keep(value)
  }

  private keep(value: Scalar, span: Span, slot = this.slots(1)): Scalar {
    const operation = { ...spanOf(span), slot, value }
    if (value.depth <= BY_STATE) this.byState.push(operation)
    else this.operations[value.depth].push(operation)
    return slotValue(slot, value.type, Math.max(value.depth, BY_STATE))
  }

  private measure(rule: RuleOf<'measure'>): void {
    const value = this.kept(rule.value, rule.name.text)
    this.define(rule.name, value)
    this.measures.push({
      ...spanOf(rule),
      title: rule.name.text,
      value: isList(value) ? this.expressions.asNumber(value, rule.value) : this.countable(value, rule.value),
    })
  }

  /** A number, or a truth that counts as 1 or 0. */
  private countable(value: Scalar, span: Span): Scalar {
    return value.type.kind === 'truth'
      ? derived(numberType(true, 0, 1), [value], value.run)
      : this.expressions.asNumber(value, span)
  }

  private reward(rule: RuleOf<'reward'>): void {
    const value = this.expressions.number(rule.value)
    const when = rule.when && this.expressions.truth(rule.when)
    const depth = Math.max(BY_ACTION, value.depth, when?.depth ?? CONSTANT)
    this.rewards[depth].push({ ...spanOf(rule.value), value, when })
  }

  private next(rule: RuleOf<'next'>): void {
    const { name } = rule
    const variable = this.variables.get(name.text)
    if (!variable) {
      this.unknownVariable(name)
      return
    }
    if (this.settled.has(name.text)) {
      this.expressions.fault(
        name,
        `What ${name.text} will be was used above already.`,
        `Put all its lines above the first “next ${name.text}” that is read.`,
      )
      return
    }
    const parts = this.nexts.get(name.text) ?? []
    if (parts.length && !parts.at(-1)!.when) {
      this.expressions.fault(
        name,
        `This line is never reached: a line above says what ${name.text} will be, whatever happens.`,
        'Add “when …” to that line, or leave one of them out.',
      )
      return
    }
    const value = this.expressions.value(rule.value)
    const when = rule.when && this.expressions.truth(rule.when)
    const items = this.spread(value, variable, rule.value)
    items.forEach((item, i) => this.fits(variable.dimensions[i], item.type, rule.value))
    parts.push({ value: { items }, when, span: spanOf(rule.value) })
    this.nexts.set(name.text, parts)
  }

  /** Puts the lines of a variable together: the first whose condition holds counts, otherwise it stays as it is. */
  private settle(variable: Variable): Value {
    const known = this.settled.get(variable.name)
    if (known) return known
    const parts = this.nexts.get(variable.name) ?? []
    const items = variable.dimensions.map((dimension, i) => {
      let result: Scalar = slotValue(dimension.slot, dimension.type, BY_STATE)
      for (const { value, when } of [...parts].reverse()) {
        const item = (value as { items: readonly Scalar[] }).items[i]
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

  private end(rule: RuleOf<'end'>): void {
    if (rule.at === 'when') {
      const condition = this.stateTruth(rule.condition, BY_STATE)
      this.endings.push({ condition, span: spanOf(rule) })
      return
    }
    const title = rule.reason ?? `ended ${this.endsAfter.length + 1}`
    this.endsAfter.push({ ...spanOf(rule), title, value: this.expressions.truth(rule.condition) })
  }

  /** A condition that must be known from the state alone (or, for levels, from the action). */
  private stateTruth(expression: Expression, depth: number): Scalar {
    const value = this.expressions.truth(expression)
    if (value.depth > depth)
      return this.expressions.fault(
        expression,
        'This depends on more than the state.',
        'Use state variables, knobs, tables and lets made of them. For steps that end an episode write “end after”.',
      )
    return value
  }

  private policy(rule: RuleOf<'policy'>): void {
    const choices = rule.choices.flatMap(({ action, level, when }) => {
      const group = this.groups.indexOf(action.text)
      if (group < 0) {
        const meant = nearestName(action.text, this.groups)
        this.expressions.fault(
          action,
          `There is no action “${action.text}”.`,
          meant
            ? `Did you mean “${meant}”?`
            : `The actions are ${this.groups.join(', ') || 'declared above'}.`,
        )
        return []
      }
      const levels = this.choices.filter((choice) => choice.group === group)
      const levelled = this.levelSlots.has(action.text)
      if (levelled !== (level !== undefined)) {
        this.expressions.fault(
          action,
          levelled ? `“${action.text}” needs a level.` : `“${action.text}” has no levels.`,
          levelled ? `Write ${levels[0]?.label ?? action.text}.` : `Write ${action.text} alone.`,
        )
        return []
      }
      const value = level && this.expressions.scalar(level)
      const condition = when && this.expressions.truth(when)
      for (const each of [value, condition])
        if (each && each.depth > BY_STATE)
          this.expressions.fault(
            level ?? rule,
            'A policy decides from the state alone.',
            'Use state variables, knobs and tables.',
          )
      return [{ group, level: value, when: condition }]
    })
    if (this.policies.some(({ title }) => title === rule.title))
      this.expressions.fault(rule, `There are two policies “${rule.title}”.`, 'Name them apart.')
    this.policies.push({ ...spanOf(rule), title: rule.title, choices })
  }

  private observation(rule: RuleOf<'observe'>): void {
    if (this.observe) {
      this.expressions.fault(rule, 'There is an observe line already.', 'Write all that is seen in one line.')
      return
    }
    this.observe = rule.items.flatMap(({ value }) => {
      const seen = this.expressions.value(value)
      if (depthOf(seen) > BY_STATE)
        this.expressions.fault(
          value,
          'What is seen depends on the state alone.',
          'Use state variables, knobs and tables.',
        )
      return isList(seen) ? seen.items : [seen]
    })
  }

  private passing(rule: RuleOf<'pass'>): void {
    if (this.pass) {
      this.expressions.fault(rule, 'There is a pass line already.', 'Join the conditions with or.')
      return
    }
    const discount = rule.discount ? this.expressions.constant(rule.discount, 1) : 1
    if (!(discount >= 0 && discount <= 1))
      this.expressions.fault(rule.discount!, `The discount is ${discount}.`, 'Use a number from 0 to 1.')
    this.pass = { condition: this.stateTruth(rule.condition, BY_STATE), discount, span: spanOf(rule) }
  }

  private impossible(rule: RuleOf<'impossible'>): void {
    if (this.treatment) {
      this.expressions.fault(
        rule,
        'It is said above already what becomes of impossible actions.',
        'Leave one of the lines out.',
      )
      return
    }
    this.treatment = rule
    if (!rule.penalty) return
    const penalty = this.expressions.number(rule.penalty)
    if (penalty.depth > BY_ACTION)
      this.expressions.fault(
        rule.penalty,
        'The penalty depends on chance.',
        'Use the state, knobs and tables.',
      )
    this.penalty = penalty
  }

  private unknownVariable(name: Name): void {
    const meant = nearestName(name.text, this.variables.keys())
    const later = this.explain(name.text)
    this.expressions.fault(
      name,
      later?.cause ?? `There is no state variable “${name.text}”.`,
      later?.remedy ??
        (meant ? `Did you mean “${meant}”?` : `Declare it above: state ${name.text} from 0 to 10.`),
    )
  }

  // ---- the whole ------------------------------------------------------------------------------------------------

  private refuseMissing(variables: readonly Variable[]): void {
    const kinds = new Set(this.rules.map((rule) => rule.type))
    const end = this.rules.at(-1)?.to ?? 0
    const place = { from: end, to: end }
    // A faulty line of that kind may be what is missing.
    if (this.faults.length) return
    if (!kinds.has('state'))
      this.expressions.fault(
        place,
        'There is no state variable.',
        'Add a line such as: state left from 0 to 12.',
      )
    if (!kinds.has('action'))
      this.expressions.fault(place, 'There is no action.', 'Add a line such as: action wait.')
    if (kinds.has('state') && !kinds.has('start'))
      this.expressions.fault(
        place,
        'There is no start.',
        `Add: start ${variables.map(({ name, dimensions }) => `${name} = ${dimensions[0].texts[0]}`).join(', ')}.`,
      )
    this.refuseCombinations(variables)
  }

  private refuseCombinations(variables: readonly Variable[]): void {
    const sizes = variables.map(variableSize)
    const total = sizes.reduce((product, size) => product * size, 1)
    if (total <= COMBINATION_LIMIT) return
    const largest = variables[sizes.indexOf(Math.max(...sizes))]
    this.expressions.fault(
      largest,
      `The variables have ${sizeText(total)} combinations: ${contributions(variables)}. Up to ${sizeText(COMBINATION_LIMIT)} are looked through.`,
      `Shrink ${largest.name} first.`,
    )
  }
}

/** How many values a variable has. */
export function variableSize({ dimensions }: Variable): number {
  return dimensions.reduce((product, { size }) => product * size, 1)
}

/** What each variable contributes: `evening 10 × left 13`. */
export function contributions(variables: readonly Variable[]): string {
  return variables
    .map((variable) =>
      variable.isList
        ? `${variable.name} ${sizeText(variableSize(variable))} (${variable.dimensions[0].size} each in ${variable.dimensions.length} places)`
        : `${variable.name} ${sizeText(variableSize(variable))}`,
    )
    .join(' × ')
}

function sizeText(size: number): string {
  if (size < 1e6) return String(size)
  const exponent = Math.floor(Math.log10(size))
  return `${tidy(Number((size / 10 ** exponent).toFixed(1)))} × 10^${exponent}`
}

function spanOf({ from, to }: Span): Span {
  return { from, to }
}

/** A number without the dust of rounding. */
function tidy(x: number): number {
  return Number(x.toPrecision(12))
}

/** A bucket's centre with as many places as tell it from its neighbours. */
function bucketText(centre: number, width: number): string {
  const places = Math.max(0, Math.min(8, 1 - Math.floor(Math.log10(width))))
  return String(Number(centre.toFixed(places)))
}

/** A rulebook's words that no name may take, for the editor. */
export function isReserved(word: string): boolean {
  return RESERVED.has(word)
}
