import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { DISTRIBUTIONS } from '../distributions'
import { FUNCTIONS } from '../functions'
import { RULE_WORDS } from '../parser'
import { PATTERNS } from '../patterns/patterns'
import { DRAWS_ALOUD, FUNCTIONS_ALOUD } from './aloud'
import { dependenceOf } from './dependence'
import { sentencesOf } from './sentences'

const EXAMPLES = [
  ...[...readFileSync('docs/rulebook.md', 'utf8').matchAll(/```rules\n([^]*?)```/g)].map(([, text]) => text),
  ...PATTERNS.map(({ text }) => text),
]
const read = (text: string) => sentencesOf(text).map((sentence) => sentence.text)

describe('a rulebook read aloud', () => {
  it('is a sentence for each rule', () => {
    expect(
      read(`knob shelf = 6 from 2 to 20
table way for hall = 1, attic = 3
state lanterns from 0 to shelf
state queue list of 3 in none, quick
start lanterns = 0 weight 2
action order from 0 to shelf when lanterns + order <= shelf
action send with van from 1 to 3, to in hall, attic
chance visitors ~ poisson(3) up to 8
chance up list of 2 ~ coin(if item = 1 then 0.5 else 0.25)
let sold = min(lanterns + order, visitors)
let fee(n) = if n > 3 then 2 * (n - 1) else 5
reward 10 * sold - 4 * order when not late and visitors > 0
discount exp(-0.1 * sold)
next lanterns = lanterns + order - sold
next queue = shift(queue, none) when any([x = quick for x in queue])
next queue[3] = quick when visitors > 0
next queue[1] = none
end after lanterns = 0 "sold out"
check "never less": next lanterns >= 0
policy "fill": order shelf - lanterns when lanterns < 2, send with to = hall, order 0
observe lanterns, sold as turned_away
same queue
pass when lanterns = 3 discounted 0.9
impossible actions are penalised by 5`),
    ).toEqual([
      'The knob shelf stands at 6 and goes from 2 to 20.',
      'The table way has 1 for hall and 3 for attic.',
      'The state tells lanterns: a whole number from 0 to shelf.',
      'The state tells queue: a list of 3, each one of none and quick.',
      'An episode starts with lanterns at 0, with the weight 2.',
      'One may choose order, with a number from 0 to shelf, where lanterns plus order is at most shelf.',
      'One may choose send, with van a number from 1 to 3 and to one of hall and attic.',
      'By chance visitors is a Poisson number with mean 3, at most 8.',
      'By chance each of the 2 items of up is yes with the chance (0.5 if item is 1, otherwise 0.25), otherwise no.',
      'Let sold be the smallest of lanterns plus order and visitors.',
      'Let fee of n be 2 times (n minus 1) if n is more than 3, otherwise 5.',
      'If late is no and visitors is more than 0, the step pays 10 times sold minus 4 times order.',
      'What follows the step counts times e to the power minus 0.1 times sold.',
      'Afterwards lanterns is lanterns plus order minus sold.',
      'If any of (the list of x is quick, for each x of queue) is yes, queue is then queue without the first item and with none at the end.',
      'If visitors is more than 0, item 3 of queue is then quick.',
      'Afterwards item 1 of queue is none.',
      'An episode ends with a step in which lanterns is 0 (“sold out”).',
      '“never less” means that always the next lanterns is at least 0.',
      'The policy “fill” chooses order shelf minus lanterns if lanterns is less than 2, otherwise send to hall, otherwise order 0.',
      'The agent sees lanterns and sold, called turned away, and nothing else.',
      'The items of queue may be exchanged.',
      'Where lanterns is 3 nothing is decided and time passes by itself, each step of it discounted by 0.9.',
      'Impossible actions are penalised by 5.',
    ])
  })

  it('stands where its rule stands, for every rulebook that is written', () => {
    for (const text of EXAMPLES) {
      const sentences = sentencesOf(text)
      expect(sentences.length).toBeGreaterThan(4)
      for (const { from, to, rule, text: sentence } of sentences) {
        expect(text.slice(from, to).startsWith(rule)).toBe(true)
        expect(sentence).not.toMatch(/undefined|null|\[object|_/)
        expect(sentence).toMatch(/^[A-Z“].*\.$/)
      }
    }
  })

  it('brackets what would be read in another way', () => {
    const said = (expression: string) => read(`let x = ${expression}`)[0].slice('Let x be '.length, -1)
    expect(said('(a + b) * c')).toBe('(a plus b) times c')
    expect(said('a - (b - c)')).toBe('a minus (b minus c)')
    expect(said('a - b - c')).toBe('a minus b minus c')
    expect(said('-(a + b) ^ 2')).toBe('minus (a plus b) to the power 2')
    expect(said('(a or b) and not (c = 1)')).toBe('whether (a is yes or b is yes) and not (c is 1)')
    expect(said('a = 1')).toBe('whether a is 1')
    expect(read('table pay for hall = 2\nreward 2 * pay[at]')[1]).toBe('The step pays 2 times the pay of at.')
    expect(said('1 + (if a then 2 else 3)')).toBe('1 plus (2 if a is yes, otherwise 3)')
    expect(said('q[i + 1] mod 2 / way[at][2]')).toBe(
      'item (i plus 1) of q modulo 2 divided by item 2 of item at of way',
    )
  })
})

it('reads every function and every distribution', () => {
  expect(Object.keys(FUNCTIONS_ALOUD).sort()).toEqual(Object.keys(FUNCTIONS).sort())
  expect(Object.keys(DRAWS_ALOUD).sort()).toEqual(Object.keys(DISTRIBUTIONS).sort())
})

describe('what depends on what', () => {
  const TEXT = `knob cost = 4 from 1 to 9
state left from 0 to 6
state wet yes or no
start left = 3, wet = no
action order from 0 to 6 when left + order <= 6
action wait with order = 0
chance come ~ poisson(if wet then 1 else 3) up to 8
let stock = left + order
let sold = min(stock, come)
reward 10 * sold - cost * order
reward -1 when action = wait
next left = stock - sold
next wet = next left = 0
measure lost = come - sold
end when left = 6`

  it('is told by arrows from what is read to what reads it', () => {
    const { arrows, parts } = dependenceOf(TEXT)
    expect(arrows.map((arrow) => arrow.join(' > ')).sort()).toEqual(
      [
        'left > action order',
        'wet > come',
        'left > stock',
        'action order > stock',
        'stock > sold',
        'come > sold',
        'sold > reward',
        'action order > reward',
        'action wait > reward',
        'stock > next left',
        'sold > next left',
        'next left > next wet',
        'come > lost',
        'sold > lost',
        'left > end',
      ].sort(),
    )
    expect(parts.map(({ id }) => id)).not.toContain('cost')
    const part = parts.find(({ id }) => id === 'next left')!
    expect(TEXT.slice(part.from, part.to)).toBe('next left = stock - sold')
  })

  it('joins a part that several actions have with all of them, and none of them with another', () => {
    const { arrows } = dependenceOf(`state at list of 2 from 0 to 3
start at = 0
action send with van from 1 to 2, by from 1 to 2 when at[van] + by < 4
action wash with van from 1 to 2 when at[van] = 0
next at = put(at, van, 0)`)
    expect(arrows.map((arrow) => arrow.join(' > ')).sort()).toEqual([
      'action send > next at',
      'action wash > next at',
      'at > action send',
      'at > action wash',
      'at > next at',
    ])
  })

  it('goes from left to right, every part at a place of its own', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(TEXT, ...EXAMPLES),
        fc.array(fc.nat(30), { maxLength: 3 }),
        (text, left) => {
          const lines = text.split('\n')
          const { parts, arrows, columns, most } = dependenceOf(
            lines.filter((_, i) => !left.includes(i)).join('\n'),
          )
          const byId = new Map(parts.map((part) => [part.id, part]))
          for (const [from, to] of arrows) expect(byId.get(from)!.column).toBeLessThan(byId.get(to)!.column)
          expect(new Set(parts.map(({ column, place }) => `${column} ${place}`)).size).toBe(parts.length)
          for (const { column, place } of parts) {
            expect(column).toBeLessThan(columns)
            expect(place).toBeLessThan(most)
          }
        },
      ),
    )
    expect(RULE_WORDS.length).toBeGreaterThan(10)
  })

  it('has nothing to show of nothing', () => {
    expect(dependenceOf('')).toEqual({ parts: [], arrows: [], columns: 1, most: 0 })
    expect(sentencesOf('nonsense')).toEqual([])
  })
})
