import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import { ITEM } from '../../../core/kinds/rulebook/declare-chance'
import { lex } from '../../../core/kinds/rulebook/lexer'
import { CLAUSE_WORDS } from '../../../core/kinds/rulebook/clause-words'
import { CALLS, RULES } from '../../../core/kinds/rulebook/vocabulary'

/** A name of the rulebook and the line that declares it. */
export interface Declared {
  readonly name: string
  readonly rule: string
  readonly line: string
  /** Whether it is called with values. */
  readonly called: boolean
}

/** The names that a text declares, as far as it can be read. */
export function declaredNames(text: string): Declared[] {
  const names: Declared[] = []
  for (const { tokens, from, to } of lex(text).statements) {
    const [first, second, third] = tokens
    if (first?.kind !== 'name' || second?.kind !== 'name') continue
    if (!['knob', 'table', 'state', 'action', 'chance', 'let', 'measure'].includes(first.text)) continue
    const line = text.slice(from, to)
    names.push({ name: second.text, rule: first.text, line, called: third?.text === '(' })
    if (first.text !== 'state' && first.text !== 'action') continue
    // Words: values of a state, an action or a part of one that are named, not counted.
    let listed = false
    for (let i = 2; i < tokens.length && tokens[i].text !== 'when'; i++) {
      const { kind, text } = tokens[i]
      const isPart =
        [',', 'with'].includes(tokens[i - 1].text) && ['in', 'from'].includes(tokens[i + 1]?.text)
      if (isPart) names.push({ name: text, rule: 'part', line, called: false })
      else if (text === 'in') listed = true
      else if (listed && kind === 'name' && !CLAUSE_WORDS.has(text))
        names.push({ name: text, rule: 'word', line, called: false })
      if (isPart || text === 'with') listed = false
    }
  }
  return names
}

const KINDS: Readonly<Record<string, string>> = {
  knob: 'knob',
  table: 'table',
  state: 'state',
  action: 'action',
  chance: 'chance',
  let: 'let',
  measure: 'measure',
  part: 'part',
  word: 'word',
}

/** What may stand at the cursor: at the beginning of a line the rules, elsewhere names, functions, distributions. */
export function suggest(context: CompletionContext): CompletionResult | null {
  const word = context.matchBefore(/[\p{L}_][\p{L}\p{N}_]*/u)
  if (!word && !context.explicit) return null
  const from = word?.from ?? context.pos
  const line = context.state.doc.lineAt(context.pos)
  const before = line.text.slice(0, from - line.from)
  if (before.includes('#') || (before.match(/"/g)?.length ?? 0) % 2 === 1) return null
  const options =
    before.trim() === '' && before === '' ? ruleOptions() : inner(context.state.doc.toString(), before)
  return { from, options, validFor: /^[\p{L}\p{N}_]*$/u }
}

function ruleOptions(): Completion[] {
  return Object.entries(RULES).map(([label, { form, says }]) => ({
    label,
    type: 'keyword',
    detail: form.slice(label.length),
    info: says,
  }))
}

function inner(text: string, before: string): Completion[] {
  const wantsDistribution = /~\s*$/.test(before)
  const calls = Object.entries(CALLS)
    .filter(([, { kind }]) => (kind === 'distribution') === wantsDistribution)
    .map(([label, { form, says }]) => ({
      label,
      type: 'function',
      detail: form.slice(label.length),
      info: says,
      apply: `${label}(`,
    }))
  if (wantsDistribution)
    return [
      ...calls,
      {
        label: 'table',
        type: 'keyword',
        detail: ' calls[part]',
        info: 'Takes the chances from a list, or from a row of a table: each is the chance of its place, or of what it is named by.',
      },
    ]
  const known = new Map<string, Completion>()
  for (const { name, rule, line, called } of declaredNames(text))
    known.set(name, {
      label: name,
      type: called ? 'function' : 'variable',
      detail: KINDS[rule],
      info: line,
      boost: 1,
      ...(called ? { apply: `${name}(` } : {}),
    })
  return [
    ...known.values(),
    ...calls,
    ...['if', 'then', 'else', 'and', 'or', 'not', 'mod', 'when'].map((label) => ({ label, type: 'keyword' })),
  ]
}

/** What to say about the word at a place: its meaning in the language, or the line that declares it. */
export function explainWord(
  text: string,
  word: string,
  lineStart: boolean,
): { form: string; says: string } | null {
  if (lineStart && Object.hasOwn(RULES, word)) return RULES[word as keyof typeof RULES]
  const declared = declaredNames(text).find(({ name }) => name === word)
  if (declared)
    return {
      form: declared.line.split('\n')[0],
      says:
        KINDS[declared.rule] === 'word'
          ? 'one of the values of this line'
          : `the ${KINDS[declared.rule]} of this line`,
    }
  if (word === ITEM)
    return { form: 'chance up list of 3 ~ coin(risk[item])', says: 'the place of the item that is drawn' }
  if (Object.hasOwn(CALLS, word)) return CALLS[word]
  return null
}
