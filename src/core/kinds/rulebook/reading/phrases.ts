import { DRAWS_ALOUD, FUNCTIONS_ALOUD } from './aloud'
import { listed } from '../place'
import type { BinaryOperator, Distribution, Expression } from '../syntax'

/** How closely the parts of a phrase belong together; looser ones stand in brackets within closer ones. */
const CHOICE = 0
const OR = 1
const AND = 2
const COMPARISON = 3
const SUM = 4
const PRODUCT = 5
const SIGN = 6
const WORD = 7

const OPERATORS: Readonly<Record<BinaryOperator, readonly [words: string, closeness: number]>> = {
  or: ['or', OR],
  and: ['and', AND],
  '=': ['is', COMPARISON],
  '!=': ['is not', COMPARISON],
  '<': ['is less than', COMPARISON],
  '<=': ['is at most', COMPARISON],
  '>': ['is more than', COMPARISON],
  '>=': ['is at least', COMPARISON],
  '+': ['plus', SUM],
  '-': ['minus', SUM],
  '*': ['times', PRODUCT],
  '/': ['divided by', PRODUCT],
  mod: ['modulo', PRODUCT],
  '^': ['to the power', SIGN],
}

/** A name as it is spoken. */
export function spoken(name: string): string {
  return name.replaceAll('_', ' ').trim() || name
}

/** What reads expressions aloud. */
export interface Phrases {
  /** An expression in words. */
  phrase(e: Expression): string
  /** A condition in words. */
  condition(e: Expression): string
  /** What is drawn, in words that come after “is”. */
  drawn(distribution: Distribution): string
}

/** @param tables  the names of tables, which are read as properties: the worth of visitor */
export function phrases(tables: ReadonlySet<string>): Phrases {
  return { phrase, condition, drawn }

  /** An expression in words. */
  function phrase(e: Expression): string {
    const isTruth = e.type === 'not' || (e.type === 'binary' && OPERATORS[e.operator][1] <= COMPARISON)
    return isTruth ? `whether ${condition(e)}` : said(e, CHOICE)
  }

  /** A condition in words: what is only named is said to hold. */
  function condition(e: Expression): string {
    return holds(e, CHOICE)
  }

  function holds(e: Expression, closeness: number): string {
    if (e.type === 'name' || e.type === 'item' || e.type === 'next') return `${said(e, WORD)} is yes`
    if (e.type === 'not' && (e.of.type === 'name' || e.of.type === 'item' || e.of.type === 'next'))
      return `${said(e.of, WORD)} is no`
    if (e.type === 'call') return `${said(e, SIGN)} ${e.callee.text === 'all' ? 'are' : 'is'} yes`
    return said(e, closeness)
  }

  /** @param closeness  of what stands around it */
  function said(e: Expression, closeness: number): string {
    const [text, own] = words(e)
    return own < closeness ? `(${text})` : text
  }

  function words(e: Expression): [text: string, closeness: number] {
    switch (e.type) {
      case 'number':
        return [String(e.value), WORD]
      case 'truth':
        return [e.value ? 'yes' : 'no', WORD]
      case 'name':
        return [e.name === 'action' ? 'the action' : spoken(e.name), WORD]
      case 'next':
        return [`the next ${spoken(e.name.text)}`, WORD]
      case 'not':
        return [`not ${holds(e.of, SUM)}`, COMPARISON]
      case 'minus':
        return [`minus ${said(e.of, SIGN)}`, SIGN]
      case 'binary': {
        const [operator, own] = OPERATORS[e.operator]
        if (own === OR || own === AND)
          return [`${holds(e.left, own)} ${operator} ${holds(e.right, own + 1)}`, own]
        return [`${said(e.left, own)} ${operator} ${said(e.right, own + 1)}`, own]
      }
      case 'if':
        return [
          `${said(e.then, OR)} if ${holds(e.condition, OR)}, otherwise ${said(e.otherwise, CHOICE)}`,
          CHOICE,
        ]
      case 'call': {
        const args = e.args.map((arg) => said(arg, SUM))
        const own = Object.hasOwn(FUNCTIONS_ALOUD, e.callee.text) ? FUNCTIONS_ALOUD[e.callee.text] : undefined
        return [
          own ? own(...args) : `${spoken(e.callee.text)} of ${listed(args)}`,
          args.length > 1 || own ? SIGN : WORD,
        ]
      }
      case 'item':
        return e.of.type === 'name' && tables.has(e.of.name)
          ? [`the ${said(e.of, WORD)} of ${said(e.index, SIGN)}`, WORD]
          : [`item ${said(e.index, SIGN)} of ${said(e.of, WORD)}`, WORD]
      case 'list':
        return e.keys
          ? [
              `the list of ${listed(e.items.map((item, i) => `${said(item, SUM)} for ${said(e.keys![i], SUM)}`))}`,
              WORD,
            ]
          : [`the list ${listed(e.items.map((item) => said(item, SUM)))}`, WORD]
      case 'each': {
        const walks = e.walks.map(({ name, over }) =>
          over.type === 'list'
            ? `each ${spoken(name.text)} of ${said(over.list, SUM)}`
            : `each ${spoken(name.text)} from ${said(over.from, SUM)} to ${said(over.to, SUM)}`,
        )
        return [`the list of ${said(e.item, CHOICE)}, for ${listed(walks)}`, CHOICE]
      }
    }
  }

  /** What is drawn, in words that come after “is”. */
  function drawn({ table, callee, args, cases, low, high }: Distribution): string {
    if (table) return `what a chance falls on that ${said(table, SUM)} gives`
    if (callee.text === 'pick')
      return listed(
        cases.map(({ value, chance }) =>
          chance
            ? `${said(value, SUM)} with the chance ${said(chance, SUM)}`
            : `${said(value, SUM)} otherwise`,
        ),
      )
    if (callee.text === 'sample') {
      const counted = [
        ...cases.map(({ value, chance }) => `${said(value, SUM)} (${chance ? said(chance, SUM) : 1} times)`),
        ...args.map((arg) => said(arg, SUM)),
      ]
      return `one of what was counted: ${listed(counted)}`
    }
    const text = DRAWS_ALOUD[callee.text]?.(...args.map((arg) => said(arg, SUM))) ?? callee.text
    if (low && high) return `${text}, held between ${said(low, SUM)} and ${said(high, SUM)}`
    return high ? `${text}, at most ${said(high, SUM)}` : text
  }
}
