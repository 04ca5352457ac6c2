import { describe, expect, it } from 'vitest'
import { outcomesOf, problemsOf, rulebook } from '../../testing/rulebooks'

/** A rulebook in which a chance falls, and what it came to is seen in the state. */
const seen = (before: string, chance: string, next: string, domain: string) => {
  const first = domain.includes('yes') ? 'no' : /(?:from|in) (\w+)/.exec(domain)![1]
  return rulebook(`state at in hall, attic
${before}
state got ${domain}
start at = hall, got = ${first}
action look
${chance}
next got = ${next}
next at = if at = hall then attic else hall
`).model
}

const told = (text: string) =>
  problemsOf(`state a from 0 to 3\nstart a = 0\naction go\n${text}\nnext a = 0`).map(
    ({ place, cause, remedy }) => `${place}: ${cause} ${remedy}`,
  )

describe('a list that is drawn item by item', () => {
  it('has a chance of its own for each item', () => {
    const model = seen(
      'table risk = 0.5, 0.25',
      'chance up list of 2 ~ coin(risk[item])',
      'up',
      'list of 2 yes or no',
    )
    expect(outcomesOf(model, 'at hall, got no no', 'look')).toEqual({
      'at attic, got no no': [0.375, 0],
      'at attic, got no yes': [0.125, 0],
      'at attic, got yes no': [0.375, 0],
      'at attic, got yes yes': [0.125, 0],
    })
  })

  it('may look at the items drawn before: a lamp seldom burns where the one before it does not', () => {
    const model = seen(
      '',
      'chance lit list of 3 ~ coin(if item = 1 or lit[item - 1] then 0.5 else 0.25)',
      'lit',
      'list of 3 yes or no',
    )
    const outcomes = outcomesOf(model, 'at hall, got no no no', 'look')
    // By hand: 1/2, then 1/2 after a burning one and 1/4 after a dark one.
    expect(outcomes['at attic, got yes yes yes'][0]).toBe(1 / 8)
    expect(outcomes['at attic, got no yes no'][0]).toBe((1 / 2) * (1 / 4) * (1 / 2))
    expect(outcomes['at attic, got no no yes'][0]).toBe((1 / 2) * (3 / 4) * (1 / 4))
    expect(outcomes['at attic, got no no no'][0]).toBe((1 / 2) * (3 / 4) * (3 / 4))
  })

  it('has ends of its own for each item', () => {
    const model = seen('', 'chance who list of 2 ~ uniform(item, 3)', 'who', 'list of 2 from 0 to 3')
    const outcomes = outcomesOf(model, 'at hall, got 0 0', 'look')
    expect(Object.keys(outcomes)).toEqual(
      ['1 2', '1 3', '2 2', '2 3', '3 2', '3 3'].map((who) => `at attic, got ${who}`),
    )
    expect(outcomes['at attic, got 3 2'][0]).toBe(1 / 6)
  })

  it('leaves a name “item” of the rulebook as it is', () => {
    const model = rulebook(`knob item = 0.25 from 0 to 1
state up list of 2 yes or no
start up ~ coin(item)
action look
chance on list of 2 ~ coin(item)
next up = on`).model
    expect([...model.startProbability]).toEqual([0.5625, 0.1875, 0.1875, 0.0625])
    expect(outcomesOf(model, 'up no no', 'look')['up yes yes'][0]).toBe(0.0625)
  })

  it('starts item by item as well', () => {
    const { model } = rulebook(`table risk = 0.5, 0.25, 1
state up list of 3 yes or no
start up ~ coin(risk[item])
action look`)
    expect(Object.fromEntries(model.labels.map((label, s) => [label, model.startProbability[s]]))).toEqual({
      'up no no yes': 0.375,
      'up no yes yes': 0.125,
      'up yes no yes': 0.375,
      'up yes yes yes': 0.125,
    })
    expect(problemsOf('state up list of 20 yes or no\nstart up ~ coin(0.5)\naction look')[0].cause).toBe(
      'There are more than 100000 starts.',
    )
  })

  it('tells a fault once', () => {
    expect(told('chance up list of 3 ~ coin(item / 2)')).toEqual([
      'line 4, column 23: The chance is 1.5. Keep it from 0 to 1.',
    ])
    expect(told('chance up list of 3 ~ coin(risk[item])')).toHaveLength(1)
    expect(told('chance up ~ coin(0.1 * item)')[0]).toContain('There is no “item”')
  })
})

describe('chances from a table', () => {
  it('are those of the places of a list, of numbers, or of words', () => {
    const whole = seen(
      'table part from 3 = 0.2, 0.3, 0.5',
      'chance calls ~ table part',
      'calls',
      'from 0 to 9',
    )
    expect(outcomesOf(whole, 'at hall, got 0', 'look')).toEqual({
      'at attic, got 3': [0.2, 0],
      'at attic, got 4': [0.3, 0],
      'at attic, got 5': [0.5, 0],
    })
    const numbers = seen('', 'chance calls ~ table [0: 0.5, 400: 0.25, 9: 0.25]', 'calls', 'in 0, 9, 400')
    expect(outcomesOf(numbers, 'at hall, got 0', 'look')).toEqual({
      'at attic, got 0': [0.5, 0],
      'at attic, got 400': [0.25, 0],
      'at attic, got 9': [0.25, 0],
    })
    const words = seen(
      'table sky for dry = 0.25, wet = 0.75',
      'chance weather ~ table sky',
      'weather',
      'in dry, wet',
    )
    expect(outcomesOf(words, 'at hall, got dry', 'look')).toEqual({
      'at attic, got dry': [0.25, 0],
      'at attic, got wet': [0.75, 0],
    })
  })

  it('depend on the state, and on what fell before, by tables of rows', () => {
    const model = seen(
      `table weather for hall = [dry: 1, wet: 0],
              attic = [dry: 0.5, wet: 0.5]
table calls for dry = [0: 0.75, 2: 0.25], wet = [0: 0.25, 2: 0.75]`,
      'chance sky ~ table weather[at]\nchance come ~ table calls[sky]',
      'come',
      'from 0 to 2',
    )
    expect(outcomesOf(model, 'at hall, got 0', 'look')).toEqual({
      'at attic, got 0': [0.75, 0],
      'at attic, got 2': [0.25, 0],
    })
    expect(outcomesOf(model, 'at attic, got 0', 'look')).toEqual({
      'at hall, got 0': [0.5, 0],
      'at hall, got 2': [0.5, 0],
    })
  })

  it('must sum to 1 in every state', () => {
    expect(told('chance c ~ table [0.5, 0.4]')).toEqual([
      'line 4, column 18: The chances sum to 0.9. Make them sum to 1, or write rest for one of them.',
    ])
    const [problem] = problemsOf(`state a from 1 to 2
start a = 1
action go
table odds = [0.5, 0.5], [0.5, 0.6]
chance c ~ table odds[a]
next a = c`)
    expect(problem.cause).toContain('The chances sum to 1.1')
    expect(problem.path).toEqual([
      { state: 'a 1', action: 'go', chances: 'c = 2' },
      { state: 'a 2', action: 'go', chances: '' },
    ])
    expect(told('chance c ~ table a')).toEqual([
      'line 4, column 18: This is a whole number, not a list of chances. Give a list or a row of a table: table [0.2, 0.8], table calls[part].',
    ])
  })
})

describe('a table of rows', () => {
  const TABLE = `table way for hall = [hall: 0, attic: 3], attic = [hall: 2, attic: 0]
table by_day from 5 = [1, 2, 3], [4, 5, 6]`
  it('is read by row and place, by words, and by what is known only later', () => {
    const { model } = rulebook(`${TABLE}
state at in hall, attic
state day from 5 to 6
start at = hall, day = 5
action go with to in hall, attic
next at = to
next day = 11 - day
reward 100 * way[at][to] + 10 * by_day[day][2] + sum(by_day[6]) + length(by_day[day])`)
    expect(outcomesOf(model, 'at hall, day 5', 'go to attic')).toEqual({ 'at attic, day 6': [1, 338] })
    expect(outcomesOf(model, 'at attic, day 6', 'go to hall')).toEqual({ 'at hall, day 5': [1, 268] })
  })

  it('is not mistaken for a list', () => {
    expect(told(`${TABLE}\nreward sum(by_day)`)).toEqual([
      'line 6, column 12: “by_day” is a table of rows. Choose a row: by_day[…].',
    ])
    expect(told(`${TABLE}\nreward by_day[5]`)[0]).toContain('This is a list of 3, not a number.')
    expect(told(`${TABLE}\nreward by_day[9][1]`)).toEqual([
      'line 6, column 15: The places are 5 to 6, this is 9. Give a place from 5 to 6.',
    ])
    expect(told(`${TABLE}\nreward [x for by_day in [1]][1] + (1)`)).toHaveLength(1)
  })

  it('has rows of one shape', () => {
    expect(told('table t = [1, 2], [3]')).toEqual([
      'line 4, column 19: This row has 1 items, the first one has 2 items. Give every row the same items, in the same order.',
    ])
    expect(told('table t = [up: 1, down: 2], [up: 1, aside: 2]')[0]).toContain(
      'This row has up, aside, the first one has up, down.',
    )
    expect(told('table t = [1, 2], 3')[0]).toContain('other rows are lists')
    expect(told('table t = [1, a], [3, 4]')[0]).toContain('must be known before anything runs')
    expect(told('table t = [up: 1, up: 2]')[0]).toContain('This name stands here twice.')
    expect(told('table t = [up: 1, 2: 2]')[0]).toContain('Values are named by words')
    expect(told('reward [0: 5, 10: 7][3]')).toEqual([
      'line 4, column 22: There is nothing named 3: the names are 0, 10. Guard it with if … then … else …, or name one more.',
    ])
    expect(told('reward [0: 5, 2: 7][a + 1]')[0]).toContain('There is nothing named 1')
  })
})

describe('values that were counted', () => {
  it('are as likely as they came up', () => {
    const counted = seen('', 'chance calls ~ sample(3: 12, 4: 20, 7: 0, 5: 8)', 'calls', 'from 0 to 9')
    expect(outcomesOf(counted, 'at hall, got 0', 'look')).toEqual({
      'at attic, got 3': [0.3, 0],
      'at attic, got 4': [0.5, 0],
      'at attic, got 5': [0.2, 0],
    })
    const pasted = seen('', 'chance calls ~ sample(3, 4, 4, 5, 3, 3, 4, 4)', 'calls', 'from 0 to 9')
    expect(outcomesOf(pasted, 'at hall, got 0', 'look')).toEqual({
      'at attic, got 3': [0.375, 0],
      'at attic, got 4': [0.5, 0],
      'at attic, got 5': [0.125, 0],
    })
    const words = seen('', 'chance sky ~ sample(dry: 3, wet: 1)', 'sky', 'in dry, wet')
    expect(outcomesOf(words, 'at hall, got dry', 'look')['at attic, got dry']).toEqual([0.75, 0])
  })

  it('are told when they are none', () => {
    expect(told('chance c ~ sample()')[0]).toContain(
      'sample takes values, each with how often it was counted.',
    )
    expect(told('chance c ~ sample(1: 0, 2: 0)')[0]).toContain('Nothing was counted.')
    expect(told('chance c ~ sample(1: -3)')[0]).toContain('The count is -3.')
    expect(told('chance c ~ sample(a: 3)')[0]).toContain('This must be known before anything runs.')
    expect(told('chance c ~ sample(1: rest)')[0]).toContain('sample takes values')
    expect(told('chance c ~ sample(1: 2, yes: 3)')[0]).toContain('different kinds')
  })
})
