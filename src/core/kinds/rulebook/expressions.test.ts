import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { problemsOf, rulebook } from '../../testing/rulebooks'
import { cosine, sine } from './trigonometry'

const HEAD = `knob k = 3 from 0 to 9
table prices = 4, 7, 9
table hours from 9 = 10, 20
table care for new = 1, worn = 5
state left from 0 to 5
state q list of 3 from 0 to 9
state shape in new, worn
state open yes or no
start left = 2, q = [1, 2, 3], shape = worn, open = yes
action wait
action order in 1, 5
chance luck ~ coin(0.5)
`

/** The expected reward of waiting in the start state, of a rulebook that pays the expression. */
function worth(expression: string, head = HEAD): number {
  const { model } = rulebook(`${head}reward ${expression}`)
  const s = model.startState[0]
  let sum = 0
  for (let o = model.outcomeStart[model.rowStart[s]]; o < model.outcomeStart[model.rowStart[s] + 1]; o++)
    sum += model.outcomeProbability[o] * model.outcomeReward[o]
  return sum
}

it.each([
  ['1 + 2 * 3 - 4 / 2', 5],
  ['-left ^ 2', -4],
  ['7 mod 3', 1],
  ['(left - 5) mod 4', 1],
  ['12%', 0.12],
  ['min(left, 1) + max(left, 7, k)', 8],
  ['min(q) * max(q)', 3],
  ['within(left + 9, 0, 6)', 6],
  ['abs(left - 5)', 3],
  ['round(2.5) + floor(-1.5) + ceil(1.2)', 3],
  ['sqrt(left + 2)', 2],
  ['exp(0) + sin(0) + cos(0)', 2],
  ['prices[left]', 7],
  ['hours[left + 7]', 10],
  ['care[shape]', 5],
  ['q[left]', 2],
  ['sum(q) + length(q)', 9],
  ['count(q, 2)', 1],
  ['count([x > 1 for x in q])', 2],
  ['sum(shift(q, 9))', 14],
  ['shift(q, 9)[1]', 2],
  ['put(q, left, 8)[2]', 8],
  ['swap(q, 1, left + 1)[1]', 3],
  ['turn(q, 1)[1] * 10 + turn(q, -1)[1]', 23],
  ['turn(q, left)[1]', 3],
  ['sum([i * i for i from 1 to 4])', 30],
  ['sum([a * b for a in q])', NaN],
  ['sum([a * b for a in q, b in shift(q, 9)])', 35],
  ['sum([i * x for i from 1 to 3, x in q])', 14],
  ['sum([[a + b for b from 1 to 3][a] for a in q])', 12],
  ['place(q, left)', 2],
  ['place(q, 7)', 0],
  ['place(q, min(q)) + 10 * place([x > left for x in q])', 31],
  ['if any([x > 2 for x in q]) and not any([x > 3 for x in q]) then 1 else 0', 1],
  ['if all([x > 0 for x in q]) and not all([x > 1 for x in q]) then 1 else 0', 1],
  ['sorted([3, 1, left])[1] + 10 * sorted([3, 1, left])[2]', 21],
  ['sorted(turn(q, left))[3]', 3],
  ['if shape = worn then 3 else 4', 3],
  ['if open and not (left = 2) then 1 else 2', 2],
  ['if left > 3 or shape = worn then 1 else 2', 1],
  ['if q = [1, 2, 3] then 6 else 0', 6],
  ['if q != [1, 2, 4] then 6 else 0', 6],
  ['if action = wait then 1 else 2', 1],
  ['if action = order then order else 100', 100],
  ['if left = 0 then 1 / left else 5', 5],
  ['if left != 0 and 6 / left > 2 then 1 else 0', 1],
  ['if luck then 1 else 0', 0.5],
  ['if k = 0 then 1 / k else k', 3],
])('%s is %d', (expression, wanted) => {
  if (Number.isNaN(wanted))
    expect(problemsOf(`${HEAD}reward ${expression}`)[0].cause).toBe('There is no “b”.')
  else expect(worth(expression)).toBeCloseTo(wanted, 12)
})

it('computes arithmetic as JavaScript does', () => {
  const number = fc.integer({ min: -50, max: 50 })
  fc.assert(
    fc.property(
      number,
      number,
      number,
      fc.constantFrom('+', '-', '*'),
      fc.constantFrom('+', '-', '*'),
      (a, b, c, p, q) => {
        const text = `(${a}) ${p} ((${b}) ${q} (${c} + left - left))`
        const f = (x: number, op: string, y: number) => (op === '+' ? x + y : op === '-' ? x - y : x * y)
        // Zero has no sign here.
        expect(worth(text) + 0).toBe(f(a, p, f(b, q, c)) + 0)
      },
    ),
    { numRuns: 100 },
  )
})

it('has a sine and a cosine right to the last digits', () => {
  for (let x = -20; x < 20; x += 0.0137) {
    expect(Math.abs(sine(x) - Math.sin(x))).toBeLessThan(3e-16)
    expect(Math.abs(cosine(x) - Math.cos(x))).toBeLessThan(3e-16)
  }
})

describe('faults of kind', () => {
  it.each([
    ['left + shape', 'This is a word, not a number.'],
    ['any(q)', 'any(list) needs a list of truths.'],
    ['if all(q) then 1 else 0', 'all(list) needs a list of truths.'],
    ['place(q)', 'place(list) needs a list of truths.'],
    ['place(q, shape)', 'The value is of another kind than the list.'],
    ['place(q, q)', 'The value to look for is a list.'],
    ['sorted(left)[1]', 'This is a whole number, not a list.'],
    ['sum([a * b for a in q, b from 1 to 2])', '“b” has 2 items, “a” has 3.'],
    ['sum([a for a in q, a in q])', 'Two counters are called “a”.'],
    ['if left then 1 else 2', 'This is a whole number, not yes or no.'],
    ['if left = shape then 1 else 2', 'This compares a whole number with a word.'],
    ['if shape = prices then 1 else 2', 'This compares a word with a list of 3.'],
    ['if open then 1 else shape', 'After “then” stands a whole number, after “else” a word.'],
    ['q', 'This is a list of 3, not a number.'],
    ['left[1]', 'This is a whole number, not a list or table.'],
    ['q[1.5]', 'This need not be a whole number.'],
    ['q[left / 2]', 'This need not be a whole number.'],
    ['prices[7]', 'The places are 1 to 3, this is 7.'],
    ['care[left]', 'This table is read by words, not by a whole number.'],
    ['minn(1, 2)', 'There is no function “minn”.'],
    ['min()', 'min takes 1 to 20 values, not 0.'],
    ['abs(1, 2)', 'abs takes 1 values, not 2.'],
    ['lft', 'There is no “lft”.'],
    ['if k = 3 then 1 else lft', 'There is no “lft”.'],
    ['min', '“min” is a function.'],
    ['next left', 'What left will be is not said above this line.'],
    ['next k', 'There is no state variable “k”.'],
    ['5 / 0', 'This divides by 0.'],
    ['5 mod 0', 'The number after mod is not above 0.'],
    ['2 ^ left', 'The exponent is not a constant whole number'],
    ['sqrt(0 - 4)', 'The square root of -4 is no number.'],
    ['q[0]', 'The places are 1 to 3, this is 0.'],
    ['swap(q, 0, 1)[1]', 'The list has the places 1 to 3.'],
    ['count(q, shape)', 'The value is of another kind than the list.'],
    ['sum([1 for i from 1 to 900])', 'It counts from 1 to 900.'],
    [
      'sum([sum([sum([1 for i from 1 to 150]) for j from 1 to 150]) for h from 1 to 150])',
      'unfold to too much',
    ],
  ])('%s: %s', (expression, cause) => {
    const [problem] = problemsOf(`${HEAD}reward ${expression}`)
    expect(problem.cause).toContain(cause)
    expect(problem.place).toMatch(/^line 13, column \d+$/)
  })

  it('only in some states are told with the state', () => {
    expect(problemsOf(`${HEAD}reward 6 / (left - 2)`)[0]).toMatchObject({
      place: 'line 13, column 8',
      cause: 'This divides by 0, when left 2, q 1 2 3, shape worn, open yes, action wait.',
    })
    expect(problemsOf(`${HEAD}reward prices[left + 2]`)[0].cause).toContain(
      'The place is 4, there are 1 to 3, when left 2',
    )
    expect(problemsOf(`${HEAD}reward order`)[0].cause).toContain(
      '“order” has no value while another action is taken',
    )
    expect(problemsOf(`${HEAD}reward sqrt(left - 3)`)[0].cause).toContain(
      'The square root of -1 is no number',
    )
  })
})
