import { describe, expect, it } from 'vitest'
import { LineMap } from './place'
import { parseRulebook, RULE_WORDS } from './parser'
import { RULES } from './vocabulary'
import type { Expression } from './syntax'

/** An expression with all its brackets. */
function shape(e: Expression): string {
  switch (e.type) {
    case 'number':
      return String(e.value)
    case 'truth':
      return e.value ? 'yes' : 'no'
    case 'name':
      return e.name
    case 'next':
      return `next.${e.name.text}`
    case 'not':
    case 'minus':
      return `(${e.type} ${shape(e.of)})`
    case 'binary':
      return `(${shape(e.left)} ${e.operator} ${shape(e.right)})`
    case 'if':
      return `(if ${shape(e.condition)} then ${shape(e.then)} else ${shape(e.otherwise)})`
    case 'call':
      return `${e.callee.text}(${e.args.map(shape).join(', ')})`
    case 'item':
      return `${shape(e.of)}[${shape(e.index)}]`
    case 'list':
      return `[${e.items.map(shape).join(', ')}]`
    case 'each':
      return `[${shape(e.item)} for ${e.walks.map(({ name, over }) => `${name.text} ${over.type === 'range' ? `from ${shape(over.from)} to ${shape(over.to)}` : `in ${shape(over.list)}`}`).join(', ')}]`
  }
}

function expressionOf(text: string): string {
  const { rules, faults } = parseRulebook(`let x = ${text}`)
  expect(faults).toEqual([])
  return shape((rules[0] as { value: Expression }).value)
}

const places = (text: string) => {
  const lines = new LineMap(text)
  return parseRulebook(text).faults.map(({ from, cause }) => `${lines.place(from)}: ${cause}`)
}

it.each([
  ['1 + 2 * 3', '(1 + (2 * 3))'],
  ['1 - 2 - 3', '((1 - 2) - 3)'],
  ['(1 + 2) * 3', '((1 + 2) * 3)'],
  ['-2 ^ 2', '(minus (2 ^ 2))'],
  ['2 ^ -1', '(2 ^ (minus 1))'],
  ['not a and b or c', '(((not a) and b) or c)'],
  ['not a = b', '(not (a = b))'],
  ['a = 1 and b != 2', '((a = 1) and (b != 2))'],
  ['7 mod 3 + 1', '((7 mod 3) + 1)'],
  ['if a then 1 else if b then 2 else 3', '(if a then 1 else (if b then 2 else 3))'],
  ['1 + if a then 1 else 2', '(1 + (if a then 1 else 2))'],
  ['min(a, b)[2]', 'min(a, b)[2]'],
  ['[i * 2 for i from 1 to n]', '[(i * 2) for i from 1 to n]'],
  ['[x > 0 for x in queue]', '[(x > 0) for x in queue]'],
  ['[x + i for x in queue, i from 1 to 3]', '[(x + i) for x in queue, i from 1 to 3]'],
  ['[1, 2, 3]', '[1, 2, 3]'],
  ['next left + 5%', '(next.left + 0.05)'],
  ['action = sell', '(action = sell)'],
])('%s binds as %s', (text, wanted) => {
  expect(expressionOf(text)).toBe(wanted)
})

describe('rules', () => {
  it('has an example of every rule, which parses', () => {
    for (const word of RULE_WORDS) {
      const { rules, faults } = parseRulebook(RULES[word].form)
      expect(faults, word).toEqual([])
      expect(rules[0].type).toBe(word)
    }
  })

  it('reads the longer forms', () => {
    const { rules, faults } = parseRulebook(
      [
        'knob rate = 0.5 from 0 to 1 by 0.05',
        'table price for dry = 3, wet = 2 + 2',
        'table hours from 9 = 1, 2',
        'state humidity from 30 to 70 in 20 buckets nearest',
        'state queue list of 3 in nobody, visitor',
        'start humidity ~ uniform(30, 32), queue = nobody weight 2 then 3 random actions',
        'action order from 0 to 500 in 11 levels with price = 3 when humidity > 3',
        'chance moves list of 3 ~ coin(0.5)',
        'chance weather ~ pick(dry: 0.5, wet: rest)',
        'chance noise ~ normal(0, 2) from -4 to 4',
        'pass when humidity = 3 discounted 0.9',
        'policy "a": order 3 when humidity > 3, order humidity - 1',
        'observe humidity > 3 as damp, queue',
        'impossible actions are penalised by 5',
        'end after humidity > 60 "mould"',
      ].join('\n'),
    )
    expect(faults).toEqual([])
    expect(rules.map(({ type }) => type)).toHaveLength(15)
  })

  it('tells several faults at once, each where it stands', () => {
    expect(
      places('state x from 0 to\nlet y = 2\nreward "a"\nnexd y = 1\nchance q poisson(3)\nlet z = 1 2'),
    ).toEqual([
      'line 1, column 18: Here should stand a number, a name or (, not the end of the rule.',
      'line 3, column 8: Here should stand a number, a name or (, not “a”.',
      'line 4, column 1: A rule cannot begin with “nexd”.',
      'line 5, column 10: Here should stand “~”, not “poisson”.',
      'line 6, column 11: “2” does not belong here: the rule was complete before it.',
    ])
  })

  it.each([
    ['let if = 3', 'is a word of the language'],
    ['reward 0 < left < 3', 'cannot be strung together'],
    ['reward if a then 3', 'Here should stand “else”'],
    ['reward []', 'This list is empty'],
    ['end left = 0', 'After “end” comes “when” or “after”'],
    ['check sold <= left', 'begins with its name in quotes'],
    ['impossible actions are ignored', 'Actions cannot be'],
  ])('refuses %s', (text, cause) => {
    expect(places(text)[0]).toContain(cause)
  })

  it.each([
    ['brackets', `${'('.repeat(5000)}1`],
    ['sums', `${'1+'.repeat(5000)}1`],
    ['not', `1 when ${'not '.repeat(5000)}yes`],
    ['if', `${'if a then 1 else '.repeat(5000)}1`],
    ['powers', `2${'^2'.repeat(5000)}`],
    ['signs', `${'-'.repeat(5000)}1`],
  ])('refuses very deep %s with a place', (_, text) => {
    expect(places(`reward ${text}`)[0]).toMatch(
      /line 1, column \d+: This expression (is nested|has) more than 120/,
    )
  })
})
