import { describe, expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { add, fraction, solve, subtract, times, toNumber, type Fraction } from '../testing/rational'
import { problemsOf, rulebook, outcomesOf } from '../testing/rulebooks'
import type { CompressedRows } from '../model/builder'
import { passThrough } from './passing'

/** A chain of single rows in sixteenths: states 0 … n - 1; the last two are decided in, the others pass. */
function chain(seed: number, n: number) {
  const stream = new RandomStream(seed, 'environment')
  const next: { to: number; part: number; reward: number }[][] = []
  for (let s = 0; s < n; s++) {
    const a = 1 + stream.below(7)
    const b = 1 + stream.below(7)
    // Every state can get out: the rest leads to the last one.
    next.push([
      { to: stream.below(n), part: a, reward: stream.below(9) - 4 },
      { to: stream.below(n), part: b, reward: stream.below(9) - 4 },
      { to: n - 1, part: 16 - a - b, reward: stream.below(9) - 4 },
    ])
  }
  const rows: CompressedRows = {
    rowStart: Int32Array.from({ length: n + 1 }, (_, s) => s),
    rowAction: new Int32Array(n),
    outcomeStart: Int32Array.from({ length: n + 1 }, (_, s) => 3 * s),
    outcomeState: Int32Array.from(next.flat(), ({ to }) => to),
    outcomeProbability: Float64Array.from(next.flat(), ({ part }) => part / 16),
    outcomeReward: Float64Array.from(next.flat(), ({ reward }) => reward),
  }
  return { next, rows, passing: Uint8Array.from({ length: n }, (_, s) => (s < n - 2 ? 1 : 0)) }
}

/** For the row of state n - 2: the chance of each way out and the expected discounted reward over all ways. */
function exactly({ next, passing }: ReturnType<typeof chain>, discount: Fraction) {
  const n = next.length
  const inside = n - 2
  const part = (s: number, to: number) =>
    next[s].reduce((sum, each) => (each.to === to ? add(sum, fraction(each.part, 16)) : sum), fraction(0))
  const paid = (s: number) =>
    next[s].reduce(
      (sum, each) => add(sum, times(fraction(each.part, 16), fraction(each.reward))),
      fraction(0),
    )
  const matrix = (scale: Fraction) =>
    Array.from({ length: inside }, (_, i) =>
      Array.from({ length: inside }, (_, j) => subtract(fraction(i === j ? 1 : 0), times(scale, part(i, j)))),
    )
  const reach = (to: number) =>
    solve(
      matrix(fraction(1)),
      Array.from({ length: inside }, (_, i) => part(i, to)),
    )
  const worth = solve(
    matrix(discount),
    Array.from({ length: inside }, (_, i) => paid(i)),
  )
  const from = n - 2
  const through = (of: Fraction[], scale: Fraction) =>
    of.reduce((sum, x, i) => add(sum, times(scale, times(part(from, i), x))), fraction(0))
  void passing
  return {
    chance: (to: number) => toNumber(add(part(from, to), through(reach(to), fraction(1)))),
    reward: toNumber(add(paid(from), through(worth, discount))),
  }
}

describe('passing states', () => {
  it.each([
    [1, 5, 1],
    [2, 7, 1],
    [3, 9, 1],
    [4, 6, 0.9],
    [5, 9, 0.9],
    [6, 12, 0.5],
  ])('give way to the exact chances and rewards of where they lead (chain %d)', (seed, n, discount) => {
    const made = chain(seed, n)
    const passed = passThrough(made.rows, made.passing, discount)
    if (passed.outcome !== 'done') throw new Error(passed.outcome)
    const wanted = exactly(made, fraction(Math.round(discount * 10), 10))
    const { rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward } = passed.rows
    const row = rowStart[n - 2]
    let reward = 0
    const chances = new Map<number, number>()
    for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
      chances.set(outcomeState[o], outcomeProbability[o])
      reward += outcomeProbability[o] * outcomeReward[o]
    }
    expect([...chances.keys()].every((to) => to >= n - 2)).toBe(true)
    expect(chances.get(n - 2) ?? 0).toBeCloseTo(wanted.chance(n - 2), 12)
    expect(chances.get(n - 1) ?? 0).toBeCloseTo(wanted.chance(n - 1), 12)
    expect(reward).toBeCloseTo(wanted.reward, 11)
  })

  it('carry their rewards and measures to the decision before, in a rulebook', () => {
    const { model, measures } = rulebook(`state wait from 0 to 3
start wait = 0
action knock
pass when wait > 0
next wait = if wait = 3 then 0 else wait + 1
reward wait * 10 + 1
measure minutes = 1`)
    expect(model.labels).toEqual(['wait 0'])
    // 1 + 11 + 21 + 31 in four minutes.
    expect(outcomesOf(model, 'wait 0', 'knock')).toEqual({ 'wait 0': [1, 64] })
    expect([...measures[0].perRow]).toEqual([4])
  })

  it('discount on the way when asked', () => {
    const { model } = rulebook(`state wait from 0 to 3
start wait = 0
action knock
pass when wait > 0 discounted 0.5
next wait = if wait = 3 then 0 else wait + 1
reward wait * 10 + 1`)
    expect(outcomesOf(model, 'wait 0', 'knock')['wait 0'][1]).toBeCloseTo(1 + 11 / 2 + 21 / 4 + 31 / 8, 14)
  })

  it('may be where an episode starts: it starts where they lead', () => {
    const { model } = rulebook(`state wait from 0 to 2
start wait = 1
action knock
pass when wait = 1
chance c ~ coin(0.25)
next wait = if wait = 1 then (if c then 0 else 2) else wait`)
    expect(Array.from(model.startState, (s) => model.labels[s]).sort()).toEqual(['wait 0', 'wait 2'])
    expect(model.startProbability[model.startState.indexOf(model.labels.indexOf('wait 0'))]).toBeCloseTo(
      0.25,
      15,
    )
  })

  it('are refused when they never lead on', () => {
    expect(
      problemsOf('state a from 0 to 3\nstart a = 0\naction x\npass when a = 1\nnext a = 1')[0],
    ).toMatchObject({
      place: 'line 4, column 1',
      cause: 'In the state a 1 time passes for ever: no decision and no ending comes.',
    })
    expect(
      problemsOf(
        'state a from 0 to 3\nstart a = 0\naction x\npass when a > 0\nnext a = if a = 1 then 2 else 1',
      )[0].cause,
    ).toContain('time passes for ever')
  })
})
