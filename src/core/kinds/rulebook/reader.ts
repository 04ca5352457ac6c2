import type { Token } from './lexer'
import { nearestName, type Fault, type Span } from './place'
import type { Name } from './syntax'
import { CLAUSE_WORDS } from './clause-words'

/** Thrown inside one statement; the parser goes on with the next one. */
export class SyntaxFault extends Error {
  constructor(readonly fault: Fault) {
    super(fault.cause)
  }
}

/** Words that cannot be names: they begin a rule or stand inside an expression. */
export const RESERVED: ReadonlySet<string> = new Set([
  ...['knob', 'table', 'state', 'start', 'chance', 'let', 'reward', 'next', 'end', 'measure', 'check'],
  ...['policy', 'observe', 'pass', 'impossible', 'when', 'if', 'then', 'else', 'and', 'or', 'not', 'mod'],
  ...['yes', 'no', 'for', 'rest', 'action'],
])

/** Walks over the tokens of one statement. */
export class TokenReader {
  private at = 0

  constructor(
    private readonly tokens: readonly Token[],
    private readonly end: Span,
  ) {}

  peek(ahead = 0): Token {
    return (
      this.tokens[this.at + ahead] ?? {
        kind: 'end',
        text: '',
        value: NaN,
        from: this.tokens.at(-1)?.to ?? this.end.to,
        to: this.tokens.at(-1)?.to ?? this.end.to,
      }
    )
  }

  take(): Token {
    const token = this.peek()
    if (token.kind !== 'end') this.at++
    return token
  }

  get done(): boolean {
    return this.at >= this.tokens.length
  }

  /** Where the token before this one ended. */
  get last(): number {
    return this.tokens[this.at - 1]?.to ?? this.end.from
  }

  is(text: string): boolean {
    const token = this.peek()
    return token.text === text && (token.kind === 'symbol' || token.kind === 'name')
  }

  /** Takes a word or sign when it is the next. */
  skip(text: string): boolean {
    if (!this.is(text)) return false
    this.at++
    return true
  }

  expect(text: string, remedy: string): Token {
    if (this.is(text)) return this.take()
    this.refuseSlips(text)
    return this.fail(`Here should stand “${text}”, not ${this.found()}.`, remedy)
  }

  name(what: string, remedy = `Write ${what}: a word of letters, digits and _.`): Name {
    const token = this.peek()
    if (token.kind !== 'name') return this.fail(`Here should stand ${what}, not ${this.found()}.`, remedy)
    if (RESERVED.has(token.text))
      return this.fail(
        `“${token.text}” is a word of the language, it cannot be ${what}.`,
        `Choose another word, such as ${token.text}_1.`,
      )
    this.take()
    return { text: token.text, from: token.from, to: token.to }
  }

  /**
   * Tells of slips that are easily made and hard to see: a decimal comma, or a word of the language misspelt.
   * @param wanted  the word that should stand here, when there is one
   */
  refuseSlips(wanted?: string): void {
    this.refuseDecimalComma()
    const token = this.peek()
    if (token.kind !== 'name') return
    const meant = wanted
      ? nearestName(token.text, [wanted])
      : CLAUSE_WORDS.has(token.text)
        ? undefined
        : nearestName(token.text, CLAUSE_WORDS)
    if (meant) this.fail(`${this.found()} does not belong here.`, `Did you mean “${meant}”?`)
  }

  /** Where the reading stops at a comma between two numbers without a blank, or just after it. */
  private refuseDecimalComma(): void {
    for (const at of [this.at, this.at - 1]) {
      const [whole, comma, part] = [this.tokens[at - 1], this.tokens[at], this.tokens[at + 1]]
      if (
        comma?.text === ',' &&
        whole?.kind === 'number' &&
        part?.kind === 'number' &&
        whole.to === comma.from &&
        comma.to === part.from
      )
        throw new SyntaxFault({
          from: whole.from,
          to: part.to,
          cause: `The number ${whole.text},${part.text} is written with a comma.`,
          remedy: `Write the number with a point: ${whole.text}.${part.text}.`,
        })
    }
  }

  /** What stands here, for a message. */
  found(): string {
    const token = this.peek()
    if (token.kind === 'end') return 'the end of the rule'
    return `“${token.text.length > 30 ? `${token.text.slice(0, 30)}…` : token.text}”`
  }

  fail(cause: string, remedy: string): never {
    this.refuseDecimalComma()
    const { from, to } = this.peek()
    throw new SyntaxFault({ from, to: Math.max(to, from), cause, remedy })
  }
}
