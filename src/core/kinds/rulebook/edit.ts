import { lex } from './lexer'
import { parseRulebook } from './parser'
import type { Treatment } from './syntax'

/**
 * The text with another treatment of impossible actions: the line that says so is changed, or put after the last
 * action line. What is penalised costs `penalty`, unless the line says another number already.
 */
export function withTreatment(text: string, treatment: Treatment, penalty = 1): string {
  const { statements } = lex(text)
  const line = `impossible actions are ${treatment}${treatment === 'penalised' ? ` by ${penalty}` : ''}`
  const known = statements.find(({ tokens }) => tokens[0].text === 'impossible')
  if (known) return text.slice(0, known.from) + line + text.slice(known.to)
  const last = statements.filter(({ tokens }) => tokens[0].text === 'action').at(-1)
  if (!last) return `${text}${text === '' || text.endsWith('\n') ? '' : '\n'}${line}\n`
  const end = text.indexOf('\n', last.to)
  return end < 0 ? `${text}\n${line}` : `${text.slice(0, end)}\n${line}${text.slice(end)}`
}

/** The text with knobs set to other numbers, so that it says by itself what they are turned to. */
export function withKnobs(text: string, knobs: Readonly<Record<string, number>>): string {
  return parseRulebook(text)
    .rules.flatMap((rule) =>
      rule.type === 'knob' && Object.hasOwn(knobs, rule.name.text)
        ? [{ span: rule.value, value: knobs[rule.name.text] }]
        : [],
    )
    .reverse()
    .reduce((turned, { span, value }) => turned.slice(0, span.from) + value + turned.slice(span.to), text)
}

/** What the text says a penalty is, when it says so with a plain number. */
export function penaltyOf(text: string): number | undefined {
  const known = lex(text).statements.find(({ tokens }) => tokens[0].text === 'impossible')
  const last = known?.tokens.at(-1)
  return last?.kind === 'number' ? last.value : undefined
}

/** What becomes of impossible actions, as the text says it: `forbidden`, `clamped` or `penalised by 5`. */
export function treatmentText(text: string): string {
  const known = lex(text).statements.find(({ tokens }) => tokens[0].text === 'impossible')
  const [, , , first] = known?.tokens ?? []
  return known && first ? text.slice(first.from, known.to).replace(/\s+/g, ' ').trim() : 'forbidden'
}

/** Whether the text says what an agent sees. */
export function observes(text: string): boolean {
  return lex(text).statements.some(({ tokens }) => tokens[0].text === 'observe')
}

/** The text without what it says of what an agent sees: then that is the whole state. */
export function withoutObserve(text: string): string {
  return lex(text)
    .statements.filter(({ tokens }) => tokens[0].text === 'observe')
    .reverse()
    .reduce((changed, { from, to }) => changed.slice(0, from) + changed.slice(to), text)
}
