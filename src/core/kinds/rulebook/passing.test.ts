import { createPlanner } from '../../plan/planners'
import { describe, expect, it } from 'vitest'
import { RandomStream } from '../../random/generator'
import { add, fraction, solve, subtract, times, toNumber, type Fraction } from '../../testing/rational'
import { problemsOf, rulebook, outcomesOf } from '../../testing/rulebooks'
import { playTrials } from '../../evaluate/rollout'
import { LEARN_METHOD_IDS, LEARN_METHODS } from '../../learn/methods/methods'
import { World } from '../../learn/world'
import type { CompressedRows } from '../../model/builder'
import { evaluatePolicy, firstPolicy, randomPolicy } from '../../plan/evaluate'
import { PLAN_DEFAULTS } from '../../plan/plan-settings'
import { PLAN_METHOD_IDS, planMethod } from '../../plan/plan-methods'
import { solveOptimum } from '../../plan/solve'
import { backupWorking } from '../../plan/working'
import { exploring, learned } from '../../testing/learning'
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

  it('discount what comes after them by the steps they take: 10, not 34.39', () => {
    const { model } = rulebook(`state wait from 0 to 3
start wait = 0
action knock
pass when wait > 0 discounted 0.9
next wait = if wait = 3 then 0 else wait + 1
reward 1`)
    // One decision and three forced steps, reward 1 each: 1 / (1 - 0.9).
    expect([...model.outcomeDiscount!]).toEqual([0.9 ** 3])
    expect(solveOptimum(model, 0.9)!.values[0]).toBeCloseTo(10, 8)
    expect(evaluatePolicy(model, randomPolicy(model), 0.9).values[0]).toBeCloseTo(10, 10)
    // Undiscounted decisions, discounted stretches: still a number.
    expect(evaluatePolicy(model, randomPolicy(model), 1).values[0]).toBeCloseTo(
      (1 + 0.9 + 0.81 + 0.729) / (1 - 0.729),
      10,
    )
    // Without the word a stretch takes no time.
    const { model: still } = rulebook(`state wait from 0 to 3
start wait = 0
action knock
pass when wait > 0
next wait = if wait = 3 then 0 else wait + 1
reward 1`)
    expect(still.outcomeDiscount).toBeNull()
    expect(solveOptimum(still, 0.9)!.values[0]).toBeCloseTo(40, 7)
  })

  describe('with the discount of the environment are worth what the same states are when all steps count', () => {
    const text = (passing: boolean) => `state at from 0 to 4
start at = 0
action left when at = 0
action right when at = 0
action on when at > 0
${passing ? 'pass when at > 0 discounted 0.8' : ''}
chance luck ~ coin(0.3)
next at = if action = left then 1 else if action = right then 3 else if luck then 0 else min(4, at + 1)
reward at + (if luck then 2 else 0)
reward -1 when action = left
end after at = 4 and luck "closed"`
    const passed = rulebook(text(true)).model
    const stepwise = rulebook(text(false)).model
    const state = stepwise.labels.indexOf('at 0')

    it('for every planner', () => {
      const exact = solveOptimum(stepwise, 0.8)!.values[state]
      expect(passed.states).toBe(2)
      for (const id of PLAN_METHOD_IDS) {
        if (planMethod(id).purpose !== 'control' || planMethod(id).staged) continue
        const planner = createPlanner(id, passed, { ...PLAN_DEFAULTS, discount: 0.8 })
        while (planner.status.outcome === 'running') planner.sweep()
        expect([id, planner.values[0].toFixed(7)]).toEqual([id, exact.toFixed(7)])
        const numbers = backupWorking(planner, 0).lines.map(({ parts }) => parts.at(-1)!.value!)
        expect(Math.max(...numbers)).toBeCloseTo(exact, 6)
      }
      for (const policy of [randomPolicy(passed), firstPolicy(passed)]) {
        const wide = new Float64Array(stepwise.rows).fill(1)
        wide.set(policy, stepwise.rowStart[state])
        expect(evaluatePolicy(passed, policy, 0.8).values[0]).toBeCloseTo(
          evaluatePolicy(stepwise, wide, 0.8).values[state],
          9,
        )
      }
    })

    it('for every learner, within what chance leaves', () => {
      const worth = evaluatePolicy(passed, randomPolicy(passed), 0.8).values[0]
      const optimum = solveOptimum(passed, 0.8)!.values[0]
      for (const method of LEARN_METHOD_IDS) {
        // Preferences are no values, and an agent for bandits looks at rewards alone.
        if (LEARN_METHODS[method].tableHolds === 'preferences' || method === 'bandit-values') continue
        const learner = learned(method, passed, {
          discount: 0.8,
          episodes: 3000,
          cap: 400,
          lambda: 0.5,
          exploration: exploring(0.02),
          learningRate: { kind: 'visits', from: 1, slowness: 30 },
          counted: 'every',
        })
        const found = Math.max(...learner.table.subarray(0, 2))
        const wanted = LEARN_METHODS[method].purpose === 'prediction' ? worth : optimum
        expect([method, Math.abs(found - wanted) < 0.06 * wanted]).toEqual([method, true])
        // Workings name the discount of the stretch that followed.
        const parts = learner.working(0)!.lines.flatMap((line) => line.parts)
        if (method !== 'prioritised-sweeping')
          expect(parts.some(({ role, value }) => role === 'rate' && value! < 0.8 && value! > 0.3)).toBe(true)
      }
    })

    it('for episodes that are played', () => {
      const trials = playTrials(new World(passed), randomPolicy(passed), {
        episodes: 4000,
        cap: 400,
        discount: 0.8,
        seed: 3,
      })
      const exact = evaluatePolicy(passed, randomPolicy(passed), 0.8).values[0]
      expect(Math.abs(trials.mean - exact)).toBeLessThan(4 * trials.standardError!)
    })
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
