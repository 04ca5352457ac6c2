import type { Fault, Span } from './place'

export type TokenKind = 'number' | 'name' | 'text' | 'symbol' | 'bad' | 'end'

export interface Token extends Span {
  readonly kind: TokenKind
  readonly text: string
  /** Of a number. */
  readonly value: number
}

/** One statement: a line at the left margin and the indented lines that go on with it. */
export interface Statement extends Span {
  readonly tokens: readonly Token[]
}

export interface Comment extends Span {
  readonly comment: true
}

const SYMBOLS = ['!=', '<=', '>=', '≠', '≤', '≥', '=', '<', '>', '+', '-', '−', '*', '×', '/', '^', '(', ')', '[', ']', ',', ':', '~', '%'] // prettier-ignore
/** Signs that people type and the one they stand for. */
const SAME_SYMBOL: Readonly<Record<string, string>> = { '≠': '!=', '≤': '<=', '≥': '>=', '−': '-', '×': '*' }

const TOKEN =
  /(?<space>[ \t\r\u00A0]+)|(?<comment>#[^\n]*)|(?<foreign>\.\.+|==|<>|=<|=>|&&|\|\||\*\*|\+=|-=|:=|[“„«][^”“»"\n]*[”“»])|(?<number>\d+(?:\.\d+)?(?:[eE][+-]?\d+)?|\.\d+)|(?<name>[\p{L}_][\p{L}\p{N}_]*)|(?<text>"[^"\n]*")|(?<symbol>!=|<=|>=|[≠≤≥=<>+\-−*×/^()[\],:~%])|(?<bad>"[^\n]*|[^\n])/uy

/**
 * Cuts a rulebook into statements. A line at the left margin (that of the first line) begins one, an indented line
 * goes on with the one above, `#` begins a comment. Nothing is lost: what is no token becomes a `bad` one.
 */
export function lex(text: string): {
  statements: Statement[]
  comments: Comment[]
  faults: Fault[]
} {
  const statements: { tokens: Token[]; from: number; to: number }[] = []
  const comments: Comment[] = []
  const faults: Fault[] = []
  let margin: number | undefined
  let at = text.charCodeAt(0) === 0xfeff ? 1 : 0
  while (at < text.length) {
    const newline = text.indexOf('\n', at)
    const end = newline < 0 ? text.length : newline
    let indent = 0
    for (let i = at; i < end && (text[i] === ' ' || text[i] === '\t'); i++) indent += text[i] === '\t' ? 4 : 1
    const tokens: Token[] = []
    TOKEN.lastIndex = at
    while (TOKEN.lastIndex < end) {
      const from = TOKEN.lastIndex
      const { groups } = TOKEN.exec(text)!
      const to = TOKEN.lastIndex
      if (groups!.space) continue
      if (groups!.comment) {
        comments.push({ from, to, comment: true })
        continue
      }
      const token = readToken(groups!, text.slice(from, to), from, to)
      if (token.kind === 'bad') faults.push({ from, to, ...signFault(token.text) })
      else tokens.push(token)
    }
    if (tokens.length) {
      margin ??= indent
      const last = statements.at(-1)
      if (indent > margin && last) {
        last.tokens.push(...tokens)
        last.to = tokens.at(-1)!.to
      } else statements.push({ tokens, from: tokens[0].from, to: tokens.at(-1)!.to })
    }
    at = end + 1
  }
  return { statements, comments, faults }
}

/** Signs of other languages, with what is written here. */
const FOREIGN: Readonly<Record<string, string>> = {
  '==': 'Write a single = to compare.',
  '<>': 'Write != for unequal.',
  '=<': 'Write <=.',
  '=>': 'Write >=.',
  '&&': 'Write and.',
  '&': 'Write and.',
  '||': 'Write or.',
  '|': 'Write or.',
  '!': 'Write not, or != for unequal.',
  '**': 'Write ^ for a power.',
  '+=': 'Write it out: next lanterns = lanterns + 2.',
  '-=': 'Write it out: next lanterns = lanterns - 2.',
  ':=': 'Write a single =.',
  '..': 'Write a range with words: from 1 to 3.',
  '...': 'Write a range with words: from 1 to 3.',
  '.': 'Put it between digits, as in 0.5; a name has letters, digits and _.',
  ';': 'Leave it out: a rule ends with its line.',
  '?': 'Write if … then … else ….',
  '{': 'Use round brackets, for a list square ones; a long rule goes on in indented lines.',
  '}': 'Use round brackets, for a list square ones; a long rule goes on in indented lines.',
  "'": 'Put texts in double quotes: "never full".',
}

function signFault(sign: string): { cause: string; remedy: string } {
  if (sign[0] === '"') return { cause: 'This text has no end.', remedy: 'Close it with " on the same line.' }
  if (/[“”„«»‘’]/.test(sign))
    return {
      cause: `The quotes of ${sign} are curly.`,
      remedy: `Type straight ones: "${sign.replace(/[“”„«»‘’]/g, '') || 'never full'}".`,
    }
  return {
    cause: `The sign ${sign} means nothing here.`,
    remedy: Object.hasOwn(FOREIGN, sign)
      ? FOREIGN[sign]
      : `The signs of the language are ${SYMBOLS.filter((s) => !SAME_SYMBOL[s]).join(' ')}`,
  }
}

function readToken(groups: Record<string, string>, text: string, from: number, to: number): Token {
  if (groups.number !== undefined) return { kind: 'number', text, value: Number(text), from, to }
  if (groups.name !== undefined) return { kind: 'name', text, value: NaN, from, to }
  if (groups.text !== undefined) return { kind: 'text', text: text.slice(1, -1), value: NaN, from, to }
  if (groups.symbol !== undefined)
    return { kind: 'symbol', text: SAME_SYMBOL[text] ?? text, value: NaN, from, to }
  return { kind: 'bad', text, value: NaN, from, to }
}
