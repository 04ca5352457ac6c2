import { spanOf } from './place'
import type { TokenReader } from './reader'
import type { BinaryOperator, Distribution, Expression, Walk } from './syntax'

/** How deep expressions may nest: far beyond what anyone reads aloud, far below what a stack holds. */
export const DEPTH_LIMIT = 120

/** Operators that stand between two operands, weakest first; those of a level bind from the left. */
const LEVELS: readonly (readonly BinaryOperator[])[] = [
  ['or'],
  ['and'],
  ['=', '!=', '<', '<=', '>', '>='],
  ['+', '-'],
  ['*', '/', 'mod'],
]
const NOT_LEVEL = 2
const COMPARISON_LEVEL = 2
const COMPARISON = LEVELS[COMPARISON_LEVEL]

/** Reads expressions from a statement's tokens. */
export class ExpressionParser {
  private depth = 0

  constructor(private readonly reader: TokenReader) {}

  expression(): Expression {
    return this.nested(() => (this.reader.is('if') ? this.conditional() : this.binary(0)))
  }

  /** An expression without comparisons, for places where a = follows. */
  sum(): Expression {
    return this.nested(() => this.binary(COMPARISON_LEVEL + 1))
  }

  private nested<T>(read: () => T): T {
    if (++this.depth > DEPTH_LIMIT)
      this.reader.fail(
        `This expression is nested more than ${DEPTH_LIMIT} deep.`,
        'Give parts of it names with let.',
      )
    const result = read()
    this.depth--
    return result
  }

  private conditional(): Expression {
    const { reader } = this
    const { from } = reader.take()
    const condition = this.expression()
    reader.expect('then', 'Write if … then … else …; a condition at the end of a rule begins with “when”.')
    const then = this.expression()
    reader.expect('else', 'Every “if … then …” also says what otherwise: add “else …”.')
    const otherwise = this.expression()
    return { type: 'if', condition, then, otherwise, from, to: otherwise.to }
  }

  private binary(level: number): Expression {
    const { reader } = this
    if (level === LEVELS.length) return this.unary()
    if (level === NOT_LEVEL && reader.is('not')) {
      const { from } = reader.take()
      const of = this.nested(() => this.binary(NOT_LEVEL))
      return { type: 'not', of, from, to: of.to }
    }
    let left = this.binary(level + 1)
    let count = 0
    for (;;) {
      const operator = LEVELS[level].find((each) => reader.is(each))
      if (!operator) return left
      if (
        level === COMPARISON_LEVEL &&
        left.type === 'binary' &&
        COMPARISON.includes(left.operator) &&
        count > 0
      )
        reader.fail('Comparisons cannot be strung together.', 'Write a <= b and b <= c.')
      if (++count + this.depth > DEPTH_LIMIT)
        reader.fail(
          `This expression has more than ${DEPTH_LIMIT} terms in a row.`,
          'Give parts of it names with let.',
        )
      reader.take()
      const right = reader.is('if') ? this.expression() : this.binary(level + 1)
      left = { type: 'binary', operator, left, right, from: left.from, to: right.to }
    }
  }

  private unary(): Expression {
    const { reader } = this
    if (reader.is('-')) {
      const { from } = reader.take()
      const of = this.nested(() => this.unary())
      return { type: 'minus', of, from, to: of.to }
    }
    reader.skip('+')
    const base = this.postfix()
    if (!reader.skip('^')) return base
    const exponent = this.nested(() => this.unary())
    return { type: 'binary', operator: '^', left: base, right: exponent, from: base.from, to: exponent.to }
  }

  private postfix(): Expression {
    const { reader } = this
    let of = this.primary()
    for (let count = 0; reader.is('['); count++) {
      if (count > 3) reader.fail('There are too many [ in a row.', 'A list has one: queue[2].')
      reader.take()
      const index = this.expression()
      const { to } = reader.expect(']', 'Close the [ … ].')
      of = { type: 'item', of, index, from: of.from, to }
    }
    return of
  }

  private primary(): Expression {
    const { reader } = this
    const token = reader.peek()
    const { from, to } = token
    if (token.kind === 'number') {
      reader.take()
      if (!reader.is('%')) return { type: 'number', value: token.value, from, to }
      const sign = reader.take()
      return { type: 'number', value: token.value / 100, from, to: sign.to }
    }
    if (reader.skip('yes')) return { type: 'truth', value: true, from, to }
    if (reader.skip('no')) return { type: 'truth', value: false, from, to }
    if (reader.skip('(')) {
      const inner = this.expression()
      const close = reader.expect(')', 'Close the ( … ).')
      return { ...inner, from, to: close.to }
    }
    if (reader.skip('[')) return this.list(from)
    if (reader.skip('next')) {
      const name = reader.name('the name of a state variable')
      return { type: 'next', name, from, to: name.to }
    }
    // The action taken is a value like any other.
    if (reader.skip('action')) return { type: 'name', name: 'action', from, to }
    const name = reader.name('a number, a name or (', 'Write what the rule should be computed from.')
    if (!reader.is('(')) return { type: 'name', name: name.text, from, to }
    reader.take()
    const args = this.many(')')
    return { type: 'call', callee: name, args, from, to: reader.last }
  }

  private list(from: number): Expression {
    const { reader } = this
    if (reader.is(']')) reader.fail('This list is empty.', 'Put at least one value into it.')
    const item = this.expression()
    if (reader.is(':')) return this.keyed(item, from)
    if (!reader.skip('for')) {
      const items = [item]
      while (reader.skip(',')) items.push(this.expression())
      reader.expect(']', 'Separate the values by commas and close the list with ].')
      return { type: 'list', items, from, to: reader.last }
    }
    const walks: Walk[] = []
    do walks.push(this.walk())
    while (reader.skip(','))
    reader.expect(']', 'Close the list with ].')
    return { type: 'each', item, walks, from, to: reader.last }
  }

  /** `cellar: 1, attic: 2]`, after the first key */
  private keyed(first: Expression, from: number): Expression {
    const { reader } = this
    const keys = [first]
    const items: Expression[] = []
    for (;;) {
      reader.expect(':', 'Name all values, or none: [cellar: 1, attic: 2].')
      items.push(this.expression())
      if (!reader.skip(',')) break
      keys.push(this.expression())
    }
    reader.expect(']', 'Separate the values by commas and close the list with ].')
    return { type: 'list', keys, items, from, to: reader.last }
  }

  private walk(): Walk {
    const { reader } = this
    const name = reader.name('a name for the counter')
    if (reader.skip('in')) return { name, over: { type: 'list', list: this.expression() } }
    reader.expect('from', `Write “for ${name.text} from 1 to 5” or “for ${name.text} in list”.`)
    const first = this.expression()
    reader.expect('to', `Write “for ${name.text} from 1 to 5”.`)
    return { name, over: { type: 'range', from: first, to: this.expression() } }
  }

  /** Expressions between commas up to a closing sign, which is taken. */
  private many(close: string): Expression[] {
    const { reader } = this
    const items: Expression[] = []
    if (reader.skip(close)) return items
    do items.push(this.expression())
    while (reader.skip(','))
    reader.expect(close, `Separate the values by commas and close with ${close}.`)
    return items
  }

  /** `poisson(4) up to 12`, `pick(dry: 0.3, damp: rest)`, `table calls[part]` */
  distribution(): Distribution {
    const { reader } = this
    const word = reader.peek()
    if (reader.skip('table')) {
      const table = this.expression()
      return {
        table,
        callee: { ...spanOf(word), text: 'table' },
        args: [],
        cases: [],
        from: word.from,
        to: reader.last,
      }
    }
    const callee = reader.name('the name of a distribution', 'Write, for example, poisson(4).')
    const args: Expression[] = []
    const cases: { value: Expression; chance: Expression | null }[] = []
    reader.expect('(', `Write ${callee.text}( … ).`)
    if (!reader.skip(')')) {
      do {
        const value = this.expression()
        if (!reader.skip(':')) args.push(value)
        else if (reader.skip('rest')) cases.push({ value, chance: null })
        else cases.push({ value, chance: this.expression() })
      } while (reader.skip(','))
      reader.expect(')', 'Separate the values by commas and close with ).')
    }
    let low: Expression | undefined
    let high: Expression | undefined
    if (reader.skip('from')) {
      low = this.expression()
      reader.expect('to', 'Write from … to …')
      high = this.expression()
    } else if (reader.skip('up')) {
      reader.expect('to', 'Write up to …')
      high = this.expression()
    }
    return { callee, args, cases, low, high, from: callee.from, to: reader.last }
  }
}
