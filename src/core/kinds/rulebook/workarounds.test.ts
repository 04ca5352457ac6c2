import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { outcomesOf, rulebook } from '../../testing/rulebooks'

/** What docs/rulebook.md says in its last section is written instead of what the language does not have. */
const WRITTEN: Readonly<Record<string, string>> = {
  'Loops and recursion': `state left from 0 to 4
state round from 0 to 3
start left = 4, round = 0
action draw from 0 to 2
chance hit ~ coin(0.5)
pass when round > 0
next left = if hit then max(0, left - 1) else left
next round = (round + 1) mod 4
reward sum([i * i for i from 1 to 3])
end when left = 0 and round = 0`,
  'Texts that are put together': `state sky in dry, wet
start sky = dry
action look
chance turns ~ coin(0.5)
next sky = wet when turns
next sky = dry`,
  'Lists that grow and shrink': `state queue list of 4 from 0 to 3
start queue = 0
action serve when queue[1] > 0
action wait
chance who ~ uniform(1, 3)
let served = if action = serve then shift(queue, 0) else queue
let free = place(served, 0)
next queue = if free > 0 then put(served, free, who) else served
reward -(4 - count(queue, 0))`,
  Records: `state at list of 2 in hall, attic
state load list of 2 from 0 to 3
start at = [hall, attic], load = [1, 2]
action send with van from 1 to 2, to in hall, attic
next at[van] = to
reward sum([if hall_ = hall then boxes else 0 for hall_ in at, boxes in load]) + load[van]`,
  'Lists of lists': `table way for hall = [hall: 0, attic: 3], attic = [hall: 2, attic: 0]
state floor list of 8 from 0 to 1
state row from 1 to 2
start floor = 0, row = 1
action mop with column from 1 to 4
next floor[4 * (row - 1) + column] = 1
next row = 3 - row
reward way[hall][attic] * floor[4 * (row - 1) + column]
end when sum(floor) = 8`,
  'Quantities without a bound': `state debt from 0 to 5
start debt = 0
action borrow
action pay
next debt = within(debt + (if action = borrow then 2 else -1), 0, 5)
end after debt + 2 > 5 and action = borrow "too much"`,
  'Continuous chances': `state heat from 10 to 30 in 40 buckets
start heat = 20
action warm
chance tenths ~ normal(0, 20) from -40 to 40
next heat = within(heat + tenths / 10, 10, 30)`,
  'Chances that depend on the next state': `state at from 1 to 3
start at = 1
action on
let there = min(3, at + 1)
chance slips ~ coin(if there = 3 then 0.5 else 0.1)
next at = if slips then at else there
end when at = 3`,
  'Two agents': `state shape in open, shut
state turn in ours, theirs
start shape = open, turn = ours
action push
action wait
table habits for open = [0: 0.5, 1: 0.5], shut = [0: 0.9, 1: 0.1]
chance reply ~ table habits[shape]
pass when turn = theirs
next shape = if turn = theirs then (if reply = 1 then shut else shape) else if action = push then open else shape
next turn = if turn = ours then theirs else ours
reward if shape = open then 1 else 0`,
  'Time of day and a last day': `state hour from 9 to 18
start hour = 9
action tour
chance hours ~ uniform(1, 2)
discount exp(-0.1 * hours)
next hour = min(18, hour + hours)
reward hours
end when hour = 18`,
  Memory: `state last list of 3 in low, high
start last = low
action price in low, high
next last = shift(last, price)
reward count(last, high)`,
  'Not knowing the state': `state belief from 0 to 1 in 20 buckets
state broken yes or no
start belief = 0.5, broken ~ coin(0.5)
observe belief
action look
action repair
chance rattles ~ coin(if broken then 0.8 else 0.3)
let likely = if rattles then 0.8 * belief / (0.8 * belief + 0.3 * (1 - belief)) else 0.2 * belief / (0.2 * belief + 0.7 * (1 - belief))
next belief = if action = repair then 0 else likely
next broken = if action = repair then no else broken
reward if action = repair then (if broken then 5 else -5) else -0.1`,
}

describe('what is not in the language', () => {
  const section = readFileSync('docs/rulebook.md', 'utf8').split('## Not in the language')[1]
  const named = [...section.matchAll(/^\d+\. \*\*([^*]+)\.\*\*/gm)].map(([, name]) => name)

  it('is named in the guide, each with a rulebook here', () => {
    expect(named).toEqual(Object.keys(WRITTEN))
  })

  it.each(Object.entries(WRITTEN))('%s: is written in another way', (_, text) => {
    const { model, facts } = rulebook(text)
    expect(model.states).toBeGreaterThan(1)
    expect(facts.notes).toEqual([])
  })

  it('comes out as it should, by hand', () => {
    const rounds = rulebook(WRITTEN['Loops and recursion']).model
    // Four rounds of an even chance each.
    expect(outcomesOf(rounds, 'left 4, round 0', 'draw 0')['left 2, round 0'][0]).toBeCloseTo(6 / 16, 14)
    const queue = rulebook(WRITTEN['Lists that grow and shrink']).model
    expect(outcomesOf(queue, 'queue 2 1 0 0', 'serve')['queue 1 3 0 0']).toEqual([1 / 3, -2])
    const vans = rulebook(WRITTEN.Records).model
    expect(
      outcomesOf(vans, 'at hall attic, load 1 2', 'send van 2 to hall')['at hall hall, load 1 2'],
    ).toEqual([1, 3])
  })
})
