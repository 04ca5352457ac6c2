import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { FUNCTIONS } from './functions'
import { CALLS, RULES } from './vocabulary'
import { rulebook, outcomesOf } from '../../testing/rulebooks'
import { scorePolicies } from '../../evaluate/scores'
import { PLAN_DEFAULTS } from '../../plan/plan-settings'
import { BackwardInduction, ValueIteration } from '../../plan/value-iteration'
import { startValue, type Model } from '../../model/model'

/** The examples of docs/rulebook.md, which is also where the language is explained. */
const GUIDE = readFileSync('docs/rulebook.md', 'utf8')
const EXAMPLES = [...GUIDE.matchAll(/### (\d+\. [^\n]+)\n[^]*?```rules\n([^]*?)```/g)].map(
  ([, title, text]) => ({ title, text }),
)

function best(model: Model, discount: number): number {
  const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount, tolerance: 1e-10 })
  while (iteration.status.outcome === 'running') iteration.sweep()
  return startValue(model, iteration.values)
}

describe('the guide', () => {
  it('has ten worked examples', () => {
    expect(EXAMPLES.map(({ title }) => Number.parseInt(title))).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
  })

  it.each(EXAMPLES)('$title compiles, holds its checks, and is worth planning', ({ text }) => {
    const { model, facts, measures, policies } = rulebook(text)
    expect(facts.checks.filter(({ broken }) => broken)).toEqual([])
    expect(facts.notes).toEqual([])
    const scores = scorePolicies(model, policies, measures, 0.95)
    const random = scores[0].value!
    const optimum = scores.at(-1)!.value!
    for (const { value } of scores) expect(optimum).toBeGreaterThanOrEqual(value! - 1e-9)
    expect(optimum).toBeGreaterThan(random)
  })

  it('explains every rule, function and distribution', () => {
    for (const word of [...Object.keys(RULES), ...Object.keys(CALLS), ...Object.keys(FUNCTIONS)])
      expect(GUIDE, word).toContain(`\`${word}`)
  })
})

/** Problems as they were asked for, each with its answer worked out apart from the language. */
describe('what it must be able to say', () => {
  it('goods on their way: five days of orders, Poisson demand, a limit that counts what is on its way', () => {
    const text = `knob room = 4 from 1 to 8
state stock from 0 to room
state coming list of 2 from 0 to room
start stock = room, coming = 0
action order from 0 to room when stock + sum(coming) + order <= room
chance wanted ~ poisson(1) up to 3
let sold = min(stock, wanted)
reward 5 * sold - 2 * order
next stock = stock - sold + coming[1]
next coming = shift(coming, order)
check "never too full": next stock + sum(next coming) <= room`
    const { model, facts } = rulebook(text)
    expect(facts.checks[0].broken).toBeNull()
    // Two days of the same by hand: values by recursion over (stock, first, second, days left).
    const e = Math.exp(-1)
    const demand = [e, e, e / 2, 1 - 2.5 * e]
    const value = (stock: number, a: number, b: number, days: number): number => {
      if (days === 0) return 0
      let most = -Infinity
      for (let order = 0; stock + a + b + order <= 4; order++) {
        let sum = -2 * order
        demand.forEach((p, d) => {
          const sold = Math.min(stock, d)
          sum += p * (5 * sold + 0.9 * value(stock - sold + a, b, order, days - 1))
        })
        most = Math.max(most, sum)
      }
      return most
    }
    const plan = new BackwardInduction(model, { ...PLAN_DEFAULTS, discount: 0.9, horizon: 4 })
    while (plan.status.outcome === 'running') plan.sweep()
    expect(startValue(model, plan.values)).toBeCloseTo(value(4, 0, 0, 4), 12)
  })

  it('goods that arrive five days later: the list keeps the days apart', () => {
    const { model } = rulebook(`state stock from 0 to 3
state coming list of 5 from 0 to 1
start stock = 0, coming = 0
action order from 0 to 1 when stock + sum(coming) + order <= 3
chance wanted ~ coin(0.5)
let sold = if wanted and stock > 0 then 1 else 0
next stock = stock - sold + coming[1]
next coming = shift(coming, order)
reward sold`)
    const path = ['stock 0, coming 0 0 0 0 0']
    for (let day = 0; day < 6; day++)
      path.push(Object.keys(outcomesOf(model, path.at(-1)!, day === 0 ? 'order 1' : 'order 0'))[0])
    expect(path.slice(1)).toEqual([
      'stock 0, coming 0 0 0 0 1',
      'stock 0, coming 0 0 0 1 0',
      'stock 0, coming 0 0 1 0 0',
      'stock 0, coming 0 1 0 0 0',
      'stock 0, coming 1 0 0 0 0',
      'stock 1, coming 0 0 0 0 0',
    ])
  })

  it('a line of people who block each other in a corridor, called by row', () => {
    // Three visitors stand in the order of the list and go to benches 1 to 3 along a corridor; one sits down a turn.
    // Who has reached their bench blocks those behind who want to go further in the same turn.
    const { model } = rulebook(`state wants list of 3 from 0 to 3
start wants = [1, 2, 3]
start wants = [3, 2, 1]
action call in 1, 2, 3
let goes = [if wants[i] = call and count([wants[j] > 0 and wants[j] < call and j < i for j from 1 to 3]) = 0 then 1 else 0 for i from 1 to 3]
next wants = [if goes[i] = 1 then 0 else wants[i] for i from 1 to 3]
reward -1
end when sum(wants) = 0`)
    // Calling the far bench in the wrong order only costs time; three calls are needed either way.
    expect(best(model, 1)).toBeCloseTo(-3, 9)
    expect(outcomesOf(model, 'wants 1 2 3', 'call 3')).toEqual({ 'wants 1 2 3': [1, -1] })
    expect(outcomesOf(model, 'wants 3 2 1', 'call 3')).toEqual({ 'wants 0 2 1': [1, -1] })
  })

  it('carts sent to waiting places, with a demand that shifts by the hour', () => {
    const { model } = rulebook(`table garden from 9 = 0.9, 0.1
table gate from 9 = 0.1, 0.9
state hour from 9 to 10
state cart in garden_side, gate_side
start hour = 9, cart = gate_side
action send in garden_side, gate_side
chance asked ~ coin(if send = garden_side then garden[hour] else gate[hour])
reward 5 when asked
reward -1 when cart != send
next cart = send
next hour = if hour = 10 then 9 else hour + 1`)
    // Going where people are: 4.5 a turn less 1 for moving, from the very first turn on.
    expect(best(model, 0.9)).toBeCloseTo(3.5 / 0.1, 8)
  })

  it('holding, buying and selling one lot against a short price history', () => {
    const { model } = rulebook(`state price list of 2 in 10, 12, 15
state held yes or no
start price = 10, held = no
action buy when not held
action sell when held
action wait
chance tomorrow ~ pick(10: 0.2, 12: 0.3, 15: rest)
reward -price[2] when action = buy
reward price[2] when action = sell
next held = action = buy or held and action != sell
next price = shift(price, tomorrow)`)
    expect(model.states).toBeLessThanOrEqual(18)
    // The dearest sale less the cheapest purchase, soon: worth more than waiting, which is worth nothing.
    expect(best(model, 0.9)).toBeGreaterThan(0)
    const buys = outcomesOf(model, 'price 10 10, held no', 'buy')
    expect(buys).toEqual({
      'price 10 10, held yes': [0.2, -10],
      'price 10 12, held yes': [0.3, -10],
      'price 10 15, held yes': [0.5, -10],
    })
  })

  it('a rod balanced on a rolling base, in buckets', () => {
    const { model, policies } = rulebook(`state lean from -0.2 to 0.2 in 9 buckets
state swing from -1 to 1 in 9 buckets
start lean = 0, swing = 0
action push in -1, 1
let turn_rate = 9.8 * sin(lean) - push * 2 * cos(lean)
next swing = within(swing + 0.05 * turn_rate, -1, 1)
next lean = lean + 0.05 * swing
end after abs(next lean) > 0.2 "fell"
reward 1
policy "against the lean": push 1 when lean + 0.3 * swing > 0, push -1
policy "always the same": push 1`)
    const [random, sensible, stubborn, optimum] = scorePolicies(model, policies, [], 0.99).map(
      ({ value }) => value!,
    )
    expect(sensible).toBeGreaterThan(3 * random)
    expect(stubborn).toBeLessThan(random)
    expect(optimum).toBeGreaterThanOrEqual(sensible)
  })

  it('a small permutation puzzle scrambled k times: every state at its true distance', () => {
    const text = (k: number) => `state tiles list of 4 from 1 to 4
start tiles = [1, 2, 3, 4] then ${k} random actions
action swap_front
action swap_back
action rotate
next tiles = if action = swap_front then swap(tiles, 1, 2) else if action = swap_back then swap(tiles, 3, 4) else turn(tiles, 1)
reward -1
end when tiles = [1, 2, 3, 4]`
    const { model } = rulebook(text(3))
    // Breadth-first search backwards from the solved one, on plain strings.
    const moves: ((t: string) => string)[] = [
      (t) => t[1] + t[0] + t[2] + t[3],
      (t) => t[0] + t[1] + t[3] + t[2],
      (t) => t.slice(1) + t[0],
    ]
    const all = new Set(['1234'])
    for (const t of all) for (const move of moves) all.add(move(t))
    const distance = new Map([['1234', 0]])
    for (let d = 0, size = 0; size !== distance.size; d++) {
      size = distance.size
      for (const t of all)
        if (!distance.has(t) && moves.some((move) => distance.get(move(t)) === d)) distance.set(t, d + 1)
    }
    expect(model.states).toBe(24)
    const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 1 })
    while (iteration.status.outcome === 'running') iteration.sweep()
    model.labels.forEach((label, s) =>
      expect(iteration.values[s]).toBeCloseTo(-distance.get(label.replace(/\D/g, ''))!, 9),
    )
    // One scrambling move: only its direct neighbours are starts.
    const one = rulebook(text(1)).model
    expect(Array.from(one.startState, (s) => one.labels[s]).sort()).toEqual([
      'tiles 1 2 4 3',
      'tiles 2 1 3 4',
      'tiles 2 3 4 1',
    ])
  })
})
