import { lex, type Statement } from './lexer'
import { ExpressionParser } from './parse-expression'
import { nearestName, spanOf, type Fault, type Span } from './place'
import { SyntaxFault, TokenReader } from './reader'
import type {
  Assignment,
  Binding,
  Domain,
  Expression,
  Levels,
  Name,
  Part,
  Rule,
  RuleBody,
  Treatment,
} from './syntax'

/** Rules of a rulebook read at the most, and faults told of at the most. */
const RULE_LIMIT = 5000

export interface Parsed {
  readonly rules: readonly Rule[]
  readonly faults: readonly Fault[]
  /** The names in rules that could not be read: they may be declared there. */
  readonly unread: ReadonlySet<string>
}

/**
 * Reads a rulebook. A faulty rule is left out and the reading goes on, so that several faults are told at once.
 * The grammar stands in docs/rulebook.md.
 */
export function parseRulebook(text: string): Parsed {
  const { statements, faults } = lex(text)
  const rules: Rule[] = []
  const all: Fault[] = [...faults]
  const unread = new Set<string>()
  const leaveOut = ({ tokens }: Statement) => {
    for (const { kind, text: name } of tokens) if (kind === 'name') unread.add(name)
  }
  for (const [i, statement] of statements.entries()) {
    if (i === RULE_LIMIT) {
      all.push({
        ...head(statement),
        cause: `The rulebook has more than ${RULE_LIMIT} rules.`,
        remedy: 'Make it shorter: no class reads so many aloud.',
      })
      break
    }
    // A statement with a sign that means nothing was told of already.
    if (faults.some(({ from }) => from >= statement.from && from <= statement.to)) {
      leaveOut(statement)
      continue
    }
    try {
      rules.push(new RuleParser(statement).rule())
    } catch (error) {
      if (!(error instanceof SyntaxFault)) throw error
      all.push(error.fault)
      leaveOut(statement)
    }
  }
  return { rules, faults: all.sort((x, y) => x.from - y.from), unread }
}

function head(statement: Statement): Span {
  return { from: statement.from, to: statement.tokens[0].to }
}

/** What begins a rule, each with the method that reads the rest of it. */
const READERS: { readonly [T in Rule['type']]: (parser: RuleParser) => RuleBody<T> } = {
  knob: (parser) => parser.knob(),
  table: (parser) => parser.table(),
  state: (parser) => parser.state(),
  start: (parser) => parser.start(),
  action: (parser) => parser.action(),
  chance: (parser) => parser.chance(),
  let: (parser) => parser.let(),
  reward: (parser) => ({ type: 'reward', value: parser.expression(), when: parser.when() }),
  discount: (parser) => ({ type: 'discount', value: parser.expression(), when: parser.when() }),
  next: (parser) => parser.next(),
  end: (parser) => parser.end(),
  measure: (parser) => ({ type: 'measure', ...parser.binding('a name') }),
  check: (parser) => ({ type: 'check', title: parser.title('check'), condition: parser.expression() }),
  policy: (parser) => parser.policy(),
  observe: (parser) => parser.observe(),
  same: (parser) => parser.same(),
  pass: (parser) => parser.pass(),
  impossible: (parser) => parser.impossible(),
}

export const RULE_WORDS = Object.keys(READERS) as Rule['type'][]

/** What stands at the head of a line in other languages, and where it belongs in this one. */
const FOREIGN_HEADS: Readonly<Record<string, string>> = {
  if: 'Put the condition at the end, next left = 0 when lit, or into the value: next left = if lit then 0 else left.',
  when: 'Put the condition at the end: next left = 0 when lit.',
  for: 'Walk through a list inside square brackets: next queue = [queue[i] + 1 for i from 1 to 3].',
  while:
    'Let each step do one round and change a variable; “pass when …” marks states in which nothing is decided.',
}

/** `f(x) = …` where no function is declared. */
function refuseFunction(reader: TokenReader): never {
  const { text } = reader.peek()
  return reader.fail(
    `${reader.found()} would be a function here.`,
    `Declare functions with let: let ${text}(n) = ….`,
  )
}

class RuleParser {
  private readonly reader: TokenReader
  private readonly expressions: ExpressionParser

  constructor(private readonly statement: Statement) {
    this.reader = new TokenReader(statement.tokens, statement)
    this.expressions = new ExpressionParser(this.reader)
  }

  rule(): Rule {
    const { reader } = this
    const first = reader.peek()
    if (first.kind !== 'name' || !Object.hasOwn(READERS, first.text)) {
      this.refuseForeign()
      const meant = first.kind === 'name' ? nearestName(first.text, RULE_WORDS) : undefined
      reader.fail(
        `A rule cannot begin with ${reader.found()}.`,
        meant
          ? `Did you mean “${meant}”?`
          : `Begin with one of ${RULE_WORDS.join(', ')}; indent a line that goes on with the one above.`,
      )
    }
    reader.take()
    const body = READERS[first.text as Rule['type']](this)
    const rule = { ...body, from: this.statement.from, to: this.statement.to } as Rule
    if (!reader.done) this.refuseRest(rule)
    return rule
  }

  /** What stands behind a rule that was complete before it. */
  private refuseRest(rule: Rule): void {
    const { reader } = this
    reader.refuseSlips()
    if (reader.is('if'))
      reader.fail('A condition at the end of a rule begins with “when”.', 'Write when instead of if.')
    if (reader.is('when')) {
      const again = this.statement.tokens.filter(({ text }) => text === 'when').length > 1
      reader.fail(
        again
          ? 'There is a “when” in this rule already.'
          : `There is no “when” in a rule that begins with ${rule.type}.`,
        again ? 'Join the conditions with and.' : 'Write if … then … else … instead.',
      )
    }
    if (rule.type === 'action')
      reader.fail(
        `${reader.found()} does not belong here: the action was complete before it.`,
        rule.parts.length
          ? 'Put a comma between parts: with van from 1 to 3, to in hall, attic.'
          : 'Levels are written “from 0 to 5” or “in 8, 12”, parts “with van from 1 to 3, to in hall, attic”.',
      )
    reader.fail(
      `${reader.found()} does not belong here: the rule was complete before it.`,
      'Take it out, or begin a new line at the left margin.',
    )
  }

  /** A line as other languages would have it: `lanterns = 3`, `f(x) = …`. */
  private refuseForeign(): void {
    const { reader } = this
    const [first, second] = [reader.peek(), reader.peek(1)]
    if (Object.hasOwn(FOREIGN_HEADS, first.text))
      reader.fail(`A rule cannot begin with ${reader.found()}.`, FOREIGN_HEADS[first.text])
    if (first.kind !== 'name' || second.kind !== 'symbol') return
    if (second.text === '=')
      reader.fail(
        `A rule cannot begin with ${reader.found()}.`,
        `Write “next ${first.text} = …” for what a state variable will be, “let ${first.text} = …” for a new name.`,
      )
    if (second.text === '[')
      reader.fail(
        `A rule cannot begin with ${reader.found()}.`,
        `Write “next ${first.text}[1] = …” for what an item of a list will be.`,
      )
    if (second.text === '(') refuseFunction(reader)
  }

  expression(): Expression {
    return this.expressions.expression()
  }

  /** `when CONDITION`, if there is one. */
  when(): Expression | undefined {
    return this.reader.skip('when') ? this.expression() : undefined
  }

  /** `NAME = EXPRESSION` */
  binding(what: string): Binding {
    const { reader } = this
    if (reader.peek(1).kind === 'symbol' && reader.peek(1).text === '(') refuseFunction(reader)
    const name = reader.name(what)
    if (reader.is('['))
      reader.fail(
        'Items of a list are said one by one in “next” lines alone.',
        `Say what the whole list is: ${name.text} = [1, 2, 3], or one value for all items.`,
      )
    reader.expect('=', `Write ${name.text} = …`)
    return { name, value: this.expression() }
  }

  /** `NAME = EXPRESSION`, `NAME[EXPRESSION] = EXPRESSION` */
  next(): RuleBody<'next'> {
    const { reader } = this
    if (!(reader.peek(1).kind === 'symbol' && reader.peek(1).text === '['))
      return { type: 'next', ...this.binding('a state variable'), when: this.when() }
    const name = reader.name('a state variable')
    reader.take()
    const item = this.expression()
    reader.expect(']', `Close the place with ]: next ${name.text}[1] = ….`)
    reader.expect('=', `Write next ${name.text}[1] = ….`)
    return { type: 'next', name, item, value: this.expression(), when: this.when() }
  }

  /** `NAME = EXPRESSION`, `NAME(NAME, …) = EXPRESSION` */
  let(): RuleBody<'let'> {
    const { reader } = this
    if (!(reader.peek(1).kind === 'symbol' && reader.peek(1).text === '('))
      return { type: 'let', ...this.binding('a name') }
    const name = reader.name('a name')
    reader.take()
    const parameters: Name[] = []
    do parameters.push(reader.name('the name of a parameter', `Write let ${name.text}(n) = ….`))
    while (reader.skip(','))
    reader.expect(')', `Close the parameters with ): let ${name.text}(n) = ….`)
    reader.expect('=', `Write let ${name.text}(n) = …`)
    return { type: 'let', name, parameters, value: this.expression() }
  }

  /** `"TEXT":` */
  title(of: string): string {
    const token = this.reader.peek()
    if (token.kind !== 'text' || !token.text.trim())
      this.reader.fail(
        `A ${of} begins with its name in quotes, not ${this.reader.found()}.`,
        `Write ${of} "a name": …`,
      )
    this.reader.take()
    this.reader.expect(':', `Write ${of} "${token.text}": …`)
    return token.text.trim()
  }

  knob(): RuleBody<'knob'> {
    const form = 'A knob has a range: write knob seats = 12 from 4 to 40.'
    const { name, value } = this.binding('a name')
    const [low, high] = this.range(form)
    return { type: 'knob', name, value, low, high, by: this.optional('by') }
  }

  table(): RuleBody<'table'> {
    const { reader } = this
    const name = reader.name('a name')
    const first = reader.skip('from') ? this.expressions.sum() : undefined
    if (reader.skip('for')) {
      const words: Name[] = []
      const items: Expression[] = []
      do {
        words.push(reader.name('a word'))
        reader.expect('=', 'Write table cost for new = 1, worn = 4.')
        items.push(this.expression())
      } while (reader.skip(','))
      return { type: 'table', name, first, items, words }
    }
    reader.expect('=', `Write table ${name.text} = 3, 5, 8.`)
    return { type: 'table', name, first, items: this.items() }
  }

  state(): RuleBody<'state'> {
    const name = this.reader.name('a name')
    let length: Expression | undefined
    if (this.reader.skip('list')) {
      this.reader.expect('of', `Write state ${name.text} list of 3 from 0 to 5.`)
      length = this.expression()
    }
    return { type: 'state', name, length, domain: this.domain(name) }
  }

  private domain(name: Name): Domain {
    const { reader } = this
    if (reader.skip('yes')) {
      reader.expect('or', `Write state ${name.text} yes or no.`)
      reader.expect('no', `Write state ${name.text} yes or no.`)
      return { type: 'truth' }
    }
    if (reader.skip('in')) return { type: 'set', items: this.items() }
    const [from, to] = this.range(
      `Write state ${name.text} from 0 to 10, state ${name.text} in low, high or state ${name.text} yes or no.`,
    )
    if (!reader.skip('in')) return { type: 'range', from, to }
    const count = this.expression()
    reader.expect('buckets', 'Write in 10 buckets.')
    return { type: 'buckets', from, to, count, nearest: reader.skip('nearest') }
  }

  start(): RuleBody<'start'> {
    const { reader } = this
    const assignments: Assignment[] = []
    do {
      const name = reader.name('a state variable')
      if (reader.skip('~')) assignments.push({ name, distribution: this.expressions.distribution() })
      else {
        reader.expect('=', `Write ${name.text} = … or ${name.text} ~ …`)
        const value = this.expression()
        if (value.type === 'binary' && (value.operator === 'or' || value.operator === 'and'))
          throw new SyntaxFault({
            ...spanOf(value),
            cause: `A start gives each variable one value, without “${value.operator}”.`,
            remedy:
              value.operator === 'or'
                ? 'Write several starts in lines of their own, or draw with ~.'
                : 'Put a comma between the variables.',
          })
        assignments.push({ name, value })
      }
    } while (reader.skip(','))
    const weight = this.optional('weight')
    const scramble = this.optional('then')
    if (scramble) {
      reader.expect('random', 'Write then 5 random actions.')
      reader.expect('actions', 'Write then 5 random actions.')
    }
    return { type: 'start', assignments, weight, scramble }
  }

  action(): RuleBody<'action'> {
    const { reader } = this
    const name = reader.name('a name')
    const levels = this.levels(`action ${name.text}`)
    const parts: Part[] = []
    const given: Binding[] = []
    if (reader.skip('with'))
      do {
        const next = reader.peek(1).text
        if (next === 'in' || next === 'from') {
          const part = reader.name('the name of a part')
          parts.push({ name: part, levels: this.levels(part.text)! })
        } else given.push(this.binding('the name of a part'))
      } while (reader.skip(','))
    return { type: 'action', name, levels, parts, given, when: this.when() }
  }

  /** `in 8, 12` or `from 0 to 10`, if that comes. @param of  what has the levels, for messages */
  private levels(of: string): Levels | undefined {
    const { reader } = this
    if (reader.skip('in')) {
      const items = [this.expression()]
      while (reader.is(',') && !this.partFollows()) {
        reader.take()
        items.push(this.expression())
      }
      return { type: 'set', items }
    }
    if (!reader.is('from')) return undefined
    const [from, to] = this.range(`Write ${of} from 0 to 10.`)
    const by = this.optional('by')
    const count = this.optional('in')
    if (count) reader.expect('levels', 'Write in 11 levels.')
    return { type: 'range', from, to, by, count }
  }

  /** Whether after a comma the next part of an action begins, and not the next item. */
  private partFollows(): boolean {
    const { reader } = this
    return reader.peek(1).kind === 'name' && ['in', 'from', '='].includes(reader.peek(2).text)
  }

  chance(): RuleBody<'chance'> {
    const { reader } = this
    const name = reader.name('a name')
    let length: Expression | undefined
    if (reader.skip('list')) {
      reader.expect('of', `Write chance ${name.text} list of 3 ~ coin(0.5).`)
      length = this.expression()
    }
    reader.expect('~', `Write chance ${name.text} ~ poisson(4).`)
    return { type: 'chance', name, length, distribution: this.expressions.distribution() }
  }

  end(): RuleBody<'end'> {
    const { reader } = this
    const at = reader.is('when') ? 'when' : reader.is('after') ? 'after' : undefined
    if (!at)
      return reader.fail(
        `After “end” comes “when” or “after”, not ${reader.found()}.`,
        'Write end when … for the states that are endings, end after … for the steps that end an episode.',
      )
    reader.take()
    const condition = this.expression()
    const reason = reader.peek().kind === 'text' ? reader.take().text.trim() : undefined
    return { type: 'end', at, condition, reason: reason || undefined }
  }

  policy(): RuleBody<'policy'> {
    const { reader } = this
    const title = this.title('policy')
    const choices: RuleBody<'policy'>['choices'][number][] = []
    do {
      const action = reader.name('an action')
      const bare = reader.done || reader.is('with') || reader.is('when') || reader.is(',')
      const level = bare ? undefined : this.expression()
      const parts: Binding[] = []
      if (reader.skip('with')) {
        parts.push(this.binding('the name of a part'))
        while (reader.is(',') && reader.peek(2).text === '=') {
          reader.take()
          parts.push(this.binding('the name of a part'))
        }
      }
      choices.push({ action, level, parts, when: this.when() })
    } while (reader.skip(','))
    return { type: 'policy', title, choices }
  }

  observe(): RuleBody<'observe'> {
    const { reader } = this
    const items: { value: Expression; name?: Name }[] = []
    do {
      const value = this.expression()
      items.push({ value, name: reader.skip('as') ? reader.name('a name') : undefined })
    } while (reader.skip(','))
    return { type: 'observe', items }
  }

  same(): RuleBody<'same'> {
    const names: Name[] = []
    do names.push(this.reader.name('a list of the state', 'Write same at, load.'))
    while (this.reader.skip(','))
    return { type: 'same', names }
  }

  pass(): RuleBody<'pass'> {
    this.reader.expect('when', 'Write pass when queue = 0.')
    const condition = this.expression()
    return { type: 'pass', condition, discount: this.optional('discounted') }
  }

  impossible(): RuleBody<'impossible'> {
    const { reader } = this
    const form = 'Write impossible actions are forbidden, … clamped or … penalised by 5.'
    reader.expect('actions', form)
    reader.expect('are', form)
    const treatment = TREATMENTS.find((each) => reader.is(each))
    if (!treatment) return reader.fail(`Actions cannot be ${reader.found()}.`, form)
    reader.take()
    if (treatment !== 'penalised') return { type: 'impossible', treatment }
    reader.expect('by', form)
    return { type: 'impossible', treatment, penalty: this.expression() }
  }

  /** An expression after a word, if the word is there. */
  private optional(word: string): Expression | undefined {
    return this.reader.skip(word) ? this.expression() : undefined
  }

  private range(form: string): [Expression, Expression] {
    this.reader.expect('from', form)
    const low = this.expression()
    this.reader.expect('to', form)
    return [low, this.expression()]
  }

  private items(): Expression[] {
    const items = [this.expression()]
    while (this.reader.skip(',')) items.push(this.expression())
    return items
  }
}

const TREATMENTS: readonly Treatment[] = ['forbidden', 'clamped', 'penalised']
