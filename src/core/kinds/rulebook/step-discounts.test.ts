import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluatePolicy, randomPolicy } from '../../plan/evaluate'
import { solveOptimum } from '../../plan/solve'
import { outcomesOf, problemsOf, rulebook } from '../../testing/rulebooks'

/** A guide walks between halls; the way takes one to three minutes. */
const WALK = `table worth = 4, 1, 7
state at from 1 to 3
start at = 1
action stay
action walk when at < 3
action back when at > 1
chance minutes ~ pick(1: 0.5, 2: 0.25, 3: rest)
reward worth[at]
`

describe('a step that takes time of its own', () => {
  it('is worth what it is worth minute by minute', () => {
    const at = 'if action = walk then at + 1 else if action = back then at - 1 else at'
    const { model } = rulebook(`${WALK}table kept = 0.9, 0.81, 0.729
discount kept[minutes]
next at = ${at}`)
    // The same in minutes: what remains of a way is part of the state, and nothing is paid on it.
    const { model: minutes } = rulebook(
      `${WALK.replace('start at = 1', 'state rest_of_way from 0 to 2\nstart at = 1, rest_of_way = 0').replace('when at < 3', 'when at < 3 and rest_of_way = 0').replace('when at > 1', 'when at > 1 and rest_of_way = 0').replace('reward worth[at]', 'reward worth[at] when rest_of_way = 0')}next at = if rest_of_way > 0 then at else ${at}
next rest_of_way = if rest_of_way > 0 then rest_of_way - 1 else minutes - 1`,
    )
    const optimum = solveOptimum(model, 1)!.values
    const other = solveOptimum(minutes, 0.9)!.values
    model.labels.forEach((label, s) =>
      expect(optimum[s]).toBeCloseTo(other[minutes.labels.indexOf(`${label}, rest_of_way 0`)], 8),
    )
    expect(optimum[0]).toBeGreaterThan(10)
  })

  it('means with a discount that is the same everywhere what the discount of the environment means', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(0.5, 0.8, 0.95),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 0, max: 3 }),
        (discount, stride, threshold) => {
          const text = (time: string, pass: string) => `state a from 0 to 6
state b yes or no
start a = 0, b = no
action go
action turn
chance wind ~ coin(0.3)
let far = (a + ${stride} + (if wind then 1 else 0)) mod 7
reward a - (if b then 2 else 0)
${time}
next a = if action = turn then a else far
next b = if action = turn then not b else wind
pass when a > ${threshold} and b ${pass}`
          const own = rulebook(text(`discount ${discount}`, '')).model
          const passing = rulebook(text('', `discounted ${discount}`)).model
          expect(own.labels).toEqual(passing.labels)
          const [one, other] = [solveOptimum(own, 1)!.values, solveOptimum(passing, discount)!.values]
          one.forEach((value, s) => expect(value).toBeCloseTo(other[s], 7))
          const mine = evaluatePolicy(own, randomPolicy(own), 1).values
          const theirs = evaluatePolicy(passing, randomPolicy(passing), discount).values
          mine.forEach((value, s) => expect(value).toBeCloseTo(theirs[s], 7))
        },
      ),
      { numRuns: 25 },
    )
  })

  it('counts as expected, by hand, and several lines multiply', () => {
    const { model } = rulebook(`${WALK}discount exp(-0.1 * minutes)
discount 0.5 when action = stay
next at = if action = walk then at + 1 else if action = back then at - 1 else at`)
    // Staying in the third hall for ever, by hand.
    const kept = 0.5 * (0.5 * Math.exp(-0.1) + 0.25 * Math.exp(-0.2) + 0.25 * Math.exp(-0.3))
    const { values } = solveOptimum(model, 1)!
    expect(values[2]).toBeGreaterThanOrEqual(7 / (1 - kept) - 1e-9)
    expect(outcomesOf(model, 'at 3', 'stay')).toEqual({ 'at 3': [1, 7] })
    expect(model.outcomeDiscount![model.outcomeDiscount!.length - 2]).toBeCloseTo(kept, 14)
  })

  it('is discounted on its way through states that pass, each by its own time', () => {
    const { model } = rulebook(`state hour from 0 to 4
start hour = 0
action open
pass when hour > 0 and hour < 4
next hour = min(4, hour + 1)
reward 10 * hour + 1
discount 1 - 0.1 * hour
end when hour = 4`)
    // 1, then 11 at once (the first step loses nothing), 21 after 0.9, 31 after 0.9 times 0.8.
    expect(outcomesOf(model, 'hour 0', 'open')['hour 4'][1]).toBeCloseTo(1 + 11 + 0.9 * 21 + 0.72 * 31, 12)
    expect(model.outcomeDiscount![0]).toBeCloseTo(0.9 * 0.8 * 0.7, 14)
  })

  it('leaves what is measured as it is', () => {
    const { measures } = rulebook(`state hour from 0 to 3
start hour = 0
action open
pass when hour > 0
next hour = (hour + 1) mod 4
discount 0.5
measure hours = 1`)
    expect([...measures[0].perRow]).toEqual([4])
  })

  it('is refused outside 0 to 1, with the way there', () => {
    const told = (line: string) =>
      problemsOf(`state a from 0 to 3\nstart a = 0\naction go\nnext a = min(3, a + 1)\n${line}`)[0]
    expect(told('discount 2').cause).toBe('The discount is 2.')
    expect(told('discount -a - 1').cause).toBe('The discount is -4 to -1.')
    expect(told('discount 1 + 0.1 * (a - 2)')).toMatchObject({
      place: 'line 5, column 10',
      cause: 'The discount is 1.1, when a 3, action go. The way there: a 0, go; a 1, go; a 2, go.',
    })
    expect(told('pass when a = 1 discounted 0.5\ndiscount 0.5').cause).toContain('It is said twice')
    expect(told('discount 0.5\npass when a = 1 discounted 0.5').cause).toContain('It is said twice')
  })

  it('leaves the name free for other things', () => {
    const { model } = rulebook(`knob discount = 0.25 from 0 to 1
state a from 0 to 1
start a = 0
action go
reward discount
discount discount`)
    expect(outcomesOf(model, 'a 0', 'go')).toEqual({ 'a 0': [1, 0.25] })
    expect([...model.outcomeDiscount!]).toEqual([0.25])
  })
})
