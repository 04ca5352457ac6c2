import { describe, expect, it } from 'vitest'
import { problemsOf, rulebook } from '../../testing/rulebooks'

const HEAD = `knob k = 3 from 0 to 9
state left from 0 to 5
state q list of 3 from 0 to 9
state shape in new, worn
start left = 2, q = [1, 2, 3], shape = worn
action wait
chance luck ~ coin(0.5)
`

/** The expected reward of waiting in the start state, with some lines and what is paid. */
function worth(lines: readonly string[], expression: string): number {
  const { model } = rulebook(`${HEAD}${lines.join('\n')}\nreward ${expression}`)
  const s = model.startState[0]
  let sum = 0
  for (let o = model.outcomeStart[model.rowStart[s]]; o < model.outcomeStart[model.rowStart[s] + 1]; o++)
    sum += model.outcomeProbability[o] * model.outcomeReward[o]
  return sum
}

describe('a function that a rulebook declares', () => {
  it.each([
    [['let fee(n) = if n > 3 then 2 * n else 5'], 'fee(left) + fee(4)', 13],
    [['let spread(list) = max(list) - min(list)'], 'spread(q) + spread([left, 7])', 7],
    [['let first(list, n) = list[n]'], 'first(q, left)', 2],
    [['let wants(s) = s = worn'], 'if wants(shape) and not wants(new) then 1 else 0', 1],
    [['let pay(n) = if luck then n else 0'], 'pay(4)', 2],
    [['let plus(a, b) = a + b'], 'plus(plus(1, 2), plus(left, 4))', 9],
    [['let double(a) = 2 * a', 'let more(a) = double(a) + 1'], 'more(left)', 5],
    [['let rotated(list) = turn(list, 1)'], 'rotated(q)[1]', 2],
    [['let ahead(n) = n + left'], 'sum([ahead(x) for x in q])', 12],
  ])('%s: %s is %d', (lines, expression, wanted) => {
    expect(worth(lines, expression)).toBeCloseTo(wanted, 12)
  })

  it('sees its parameters and what stands above it, whatever is called so where it is used', () => {
    const lines = ['let f(a) = a + k', 'let g(k) = f(1) + k']
    // k is the knob in f, an item in the list, a parameter of g.
    expect(worth(lines, 'sum([f(1) for k in q])')).toBe(12)
    expect(worth(lines, 'g(10)')).toBe(14)
  })

  it('says what an action is possible for, and so does a let of the state alone', () => {
    const { model } = rulebook(`state left from 0 to 5
start left = 2
let free(n) = left + n <= 5
let low = left < 3
action go in 1, 4 when free(go) and low
action stop
reward 1`)
    const s = model.startState[0]
    expect(
      [...model.rowAction.subarray(model.rowStart[s], model.rowStart[s + 1])].map((a) => model.actions[a]),
    ).toEqual(['go 1', 'stop'])
  })

  it.each([
    ['let f(n) = f(n - 1)\nreward f(2)', '“f” stands in its own definition.', 'line 8, column 5'],
    ['let f(n) = f(n - 1)', '“f” stands in its own definition.', 'line 8, column 5'],
    ['let f(n) = g(n)\nlet g(n) = f(n)\nreward g(2)', '“g” is not known here yet', 'line 8, column 12'],
    ['let f(n) = n + late\nlet late = 4\nreward f(2)', '“late” is not known here yet', 'line 8, column 16'],
    ['let f(n) = n + 1\nreward f(1, 2)', 'f takes 1 value, not 2.', 'line 9, column 8'],
    ['let f(n, m) = n + m\nreward f(1)', 'f takes 2 values, not 1.', 'line 9, column 8'],
    ['let f(n) = n + 1\nreward f(shape)', 'This is a word, not a number.', 'line 8, column 12'],
    ['let f(n) = n + 1\nreward f', '“f” is a function.', 'line 9, column 8'],
    ['reward f(1)\nlet f(n) = n', '“f” is not known here yet', 'line 8, column 8'],
    ['let min(n) = n\nreward 1', '“min” is a function of the language.', 'line 8, column 5'],
    ['let left(n) = n\nreward 1', '“left” is declared twice.', 'line 8, column 5'],
    ['let worn(n) = n\nreward 1', '“worn” is', 'line'],
    ['let f(n, n) = n\nreward 1', 'Two parameters are called “n”.', 'line 8, column 10'],
    ['let f(3) = 3\nreward 1', 'Here should stand the name of a parameter', 'line 8, column 7'],
    ['let f(n = 3\nreward 1', 'Here should stand', 'line 8, column 9'],
    ['measure f(n) = n\nreward 1', '“f” would be a function here.', 'line 8, column 9'],
    ['reward left(2)', '“left” is a value, not a function.', 'line 8, column 8'],
  ])('tells what is wrong: %j', (lines, cause, place) => {
    const problems = problemsOf(`${HEAD}${lines}`)
    const found = problems.find((problem) => problem.cause.includes(cause))
    expect(problems.map((problem) => `${problem.place}: ${problem.cause}`).join('\n')).toContain(cause)
    expect(found!.place).toContain(place)
  })

  it('tells once what is wrong in several calls, and stops where it unfolds to too much', () => {
    expect(problemsOf(`${HEAD}let f(n) = n + 1\nreward f(shape) + f(shape)`)).toHaveLength(1)
    const doubling = Array.from({ length: 30 }, (_, i) => `let f${i + 1}(n) = f${i}(n) + f${i}(n)`)
    const [problem] = problemsOf(`${HEAD}let f0(n) = n\n${doubling.join('\n')}\nreward f30(1)`)
    expect(problem.cause).toContain('unfold to too much')
    const chain = Array.from({ length: 3000 }, (_, i) => `let f${i + 1}(n) = f${i}(n)`)
    const [deep] = problemsOf(`${HEAD}let f0(n) = n\n${chain.join('\n')}\nreward f3000(1)`)
    expect(deep.cause).toBe('Functions call one another more than 50 levels deep.')
  })
})
