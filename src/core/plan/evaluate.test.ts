import { createPlanner } from './planners'
import { describe, expect, it } from 'vitest'
import { compileGrid } from '../kinds/grid/compile'
import { ModelBuilder } from '../model/builder'
import { cellName } from '../kinds/grid/cells'
import { RandomStream } from '../random/generator'
import { gridDocument, gridModel, randomModel } from '../testing/models'
import { add, fraction, solve, subtract, times, toNumber } from '../testing/rational'
import { evaluatePolicy, firstPolicy, randomPolicy } from './evaluate'
import { PLAN_DEFAULTS } from './plan-settings'

describe('exact evaluation', () => {
  it('solves the random walk on a line: v(k) = k (n - k) x the cost of a step', () => {
    // Five cells between two endings, equal chances, each step costs 1: the gambler's ruin, k (6 - k) steps.
    // North and south bump, which doubles the time.
    const model = gridModel(['.......'], {
      endings: [
        { at: 'A1', reward: 0, name: '' },
        { at: 'G1', reward: 0, name: '' },
      ],
    })
    const result = evaluatePolicy(model, randomPolicy(model), 1)
    expect(result.outcome).toBe('solved')
    if (result.outcome === 'solved')
      [0, 5, 8, 9, 8, 5, 0].forEach((steps, s) => expect(result.values[s]).toBeCloseTo(-2 * steps, 10))
  })

  it('agrees with exact fractions on random models', () => {
    for (let seed = 20; seed < 30; seed++) {
      const { model, rows } = randomModel(seed, 7)
      const discount = fraction(19, 20)
      const matrix = rows.map((_, s) => rows.map((_, k) => fraction(s === k ? 1 : 0)))
      const right = rows.map(() => fraction(0))
      rows.forEach((actions, s) => {
        for (const outcomes of actions)
          for (const { next, chance, reward } of outcomes) {
            const share = times(chance, fraction(1, actions.length))
            matrix[s][next] = subtract(matrix[s][next], times(discount, share))
            right[s] = add(right[s], times(share, reward))
          }
      })
      const exact = solve(matrix, right).map(toNumber)
      const result = evaluatePolicy(model, randomPolicy(model), 0.95)
      if (result.outcome !== 'solved') throw new Error(result.outcome)
      exact.forEach((value, s) => expect(Math.abs(result.values[s] - value)).toBeLessThan(1e-11))
    }
  })

  it('gives the same by elimination and by sweeps', () => {
    const floor = Array.from({ length: 15 }, (_, r) => (r % 4 === 2 ? '.....#.........' : '...............'))
    const { model } = compileGrid(
      gridDocument(floor, { endings: [{ at: 'O15', reward: 50, name: '' }], veer: 0.3 }).grid,
      100,
    )
    for (const discount of [0.9, 0.999, 1]) {
      const dense = evaluatePolicy(model, randomPolicy(model), discount)
      const swept = evaluatePolicy(model, randomPolicy(model), discount, {
        initial: new Float64Array(model.states),
      })
      if (dense.outcome !== 'solved' || swept.outcome !== 'solved') throw new Error('not solved')
      dense.values.forEach((value, s) => expect(Math.abs(swept.values[s] - value)).toBeLessThan(1e-9))
      expect(swept.bound).toBeLessThan(1e-9)
    }
  })

  it('names the states that never end under a policy at discount 1', () => {
    const model = gridModel(['..'], { endings: [{ at: 'B1', reward: 5, name: '' }] })
    expect(evaluatePolicy(model, firstPolicy(model), 1)).toMatchObject({
      outcome: 'never-ends',
      endless: Int32Array.of(0),
    })
    const discounted = evaluatePolicy(model, firstPolicy(model), 0.5)
    expect(discounted.outcome === 'solved' && discounted.values[0]).toBeCloseTo(-2, 12)
  })

  it('gives values where they are finite, and takes the start alone for finite or not', () => {
    // Start a goes on to the ending; b, which it never comes to, waits for ever, and c may come to b.
    const builder = new ModelBuilder()
    const [a, b, c, end] = ['a', 'b', 'c', 'end'].map((label) => builder.state(label))
    const on = builder.action('on')
    builder.outcome(builder.row(a, on), end, 1, 7)
    builder.outcome(builder.row(b, on), b, 1, -1)
    builder.outcome(builder.row(c, on), b, 0.5, 0)
    builder.outcome(builder.row(c, on), end, 0.5, 0)
    const build = (start: number) => builder.build({ starts: [{ state: start, weight: 1 }], cap: 10 })
    const fromA = evaluatePolicy(build(a), firstPolicy(build(a)), 1)
    expect(fromA).toMatchObject({ outcome: 'solved', endless: Int32Array.of(b, c) })
    expect([...fromA.values]).toEqual([7, NaN, NaN, 0])
    const fromC = evaluatePolicy(build(c), firstPolicy(build(c)), 1)
    expect(fromC.outcome).toBe('never-ends')
    expect(fromC.values[a]).toBe(7)
  })

  it('draws the line between finite and not where fractions and reachability by hand draw it', () => {
    const stream = new RandomStream(11, 'environment')
    const seen = { apart: 0, lost: 0, whole: 0 }
    for (let round = 0; round < 400; round++) {
      const { model, rows } = randomModel(100 + round, 7)
      const policy = new Float64Array(model.rows)
      const choice = rows.map((actions) => (actions.length ? stream.below(actions.length) : -1))
      choice.forEach((k, s) => {
        if (k >= 0) policy[model.rowStart[s] + k] = 1
      })
      // Who can come to whom, by squaring a table of truths.
      const n = model.states
      let reach = rows.map((actions, s) =>
        rows.map((_, t) => s === t || (choice[s] >= 0 && actions[choice[s]].some(({ next }) => next === t))),
      )
      for (let i = 0; i < 3; i++)
        reach = reach.map((row) => row.map((_, t) => row.some((there, k) => there && reach[k][t])))
      const ends = (s: number) => reach[s][n - 1]
      const finite = rows.map((_, s) => rows.every((_, t) => !reach[s][t] || ends(t)))
      const result = evaluatePolicy(model, policy, 1)
      expect([...result.endless]).toEqual(rows.flatMap((_, s) => (finite[s] ? [] : [s])))
      expect(result.outcome).toBe(finite[0] ? 'solved' : 'never-ends')
      seen[!finite[0] ? 'lost' : finite.every(Boolean) ? 'whole' : 'apart']++
      const inside = rows.flatMap((_, s) => (finite[s] && s < n - 1 ? [s] : []))
      const matrix = inside.map((s) => inside.map((t) => fraction(s === t ? 1 : 0)))
      const right = inside.map(() => fraction(0))
      inside.forEach((s, i) => {
        for (const { next, chance, reward } of rows[s][choice[s]]) {
          right[i] = add(right[i], times(chance, reward))
          const j = inside.indexOf(next)
          if (j >= 0) matrix[i][j] = subtract(matrix[i][j], chance)
        }
      })
      if (inside.length === 0) continue
      solve(matrix, right).forEach((value, i) =>
        expect(Math.abs(result.values[inside[i]] - toNumber(value))).toBeLessThan(
          1e-12 * Math.max(1, Math.abs(toNumber(value))),
        ),
      )
      // Planners of a given policy draw the same line.
      const planner = createPlanner('policy-evaluation', model, { ...PLAN_DEFAULTS, discount: 1, policy })
      while (planner.status.outcome === 'running') planner.sweep()
      expect(planner.status.outcome).toBe(finite[0] ? 'converged' : 'improper')
      if (finite[0])
        planner.values.forEach((value, s) =>
          finite[s] ? expect(Math.abs(value - result.values[s])).toBeLessThan(1e-6) : expect(value).toBeNaN(),
        )
    }
    expect(Math.min(seen.apart, seen.lost, seen.whole)).toBeGreaterThan(5)
  })

  it('is exact on long chains, where sweeps take for ever', () => {
    for (const cells of [301, 5001]) {
      const n = cells - 1
      const model = gridModel(['.'.repeat(cells)], {
        endings: [
          { at: 'A1', reward: 0, name: '' },
          { at: cellName(n, 0), reward: 0, name: '' },
        ],
      })
      // v(k) = -2 k (n - k); discounted v = -1 + γ (v / 2 + (v(k - 1) + v(k + 1)) / 4), a combination of two powers.
      const [undiscounted, discounted] = [1, 0.9999].map((discount) => {
        const result = evaluatePolicy(model, randomPolicy(model), discount)
        expect(result.outcome).toBe('solved')
        return result.values
      })
      const half = (1 - 0.9999 / 2) / (0.9999 / 2)
      const x = half - Math.sqrt(half * half - 1)
      for (let k = 1; k < n; k += 1 + Math.floor(n / 97)) {
        expect(Math.abs(undiscounted[k] / (-2 * k * (n - k)) - 1)).toBeLessThan(1e-9)
        const share = (x ** k + x ** (n - k)) / (1 + x ** n)
        const exact = (-1 / (1 - 0.9999)) * (1 - share)
        expect(Math.abs(discounted[k] / exact - 1)).toBeLessThan(1e-9)
      }
    }
  })

  it(
    'is exact on a square that a random walk leaves by its rim: the sum of sines',
    { timeout: 60_000 },
    () => {
      const side = 100
      const builder = new ModelBuilder()
      const end = builder.state('outside')
      const at = (i: number, j: number) =>
        i < 1 || j < 1 || i > side || j > side ? end : builder.state(`${i}-${j}`)
      for (let i = 1; i <= side; i++) for (let j = 1; j <= side; j++) at(i, j)
      for (let i = 1; i <= side; i++)
        for (let j = 1; j <= side; j++)
          [at(i + 1, j), at(i - 1, j), at(i, j + 1), at(i, j - 1)].forEach((next, a) =>
            builder.outcome(builder.row(at(i, j), builder.action(`${a}`)), next, 1, 1),
          )
      const model = builder.build({ starts: [{ state: at(50, 50), weight: 1 }], cap: 10 })
      const big = side + 1
      for (const discount of [1, 0.9999]) {
        const result = evaluatePolicy(model, randomPolicy(model), discount, { direct: true })
        expect(result.outcome).toBe('solved')
        for (const [i, j] of [
          [1, 1],
          [50, 50],
          [3, 77],
        ]) {
          let exact = 0
          for (let k = 1; k < big; k += 2)
            for (let l = 1; l < big; l += 2) {
              const part = (m: number, p: number) =>
                (2 / big / Math.tan((m * Math.PI) / (2 * big))) * Math.sin((m * Math.PI * p) / big)
              const kept =
                1 - (discount / 2) * (Math.cos((k * Math.PI) / big) + Math.cos((l * Math.PI) / big))
              exact += (part(k, i) * part(l, j)) / kept
            }
          expect(Math.abs(result.values[at(i, j)] / exact - 1)).toBeLessThan(1e-9)
        }
      }
    },
  )

  it('lets policy iteration go on where sweeps of a policy would take for ever', () => {
    const model = gridModel(['.'.repeat(302)], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: cellName(301, 0), reward: 0, name: '' }],
    })
    const planner = createPlanner('policy-iteration', model, { ...PLAN_DEFAULTS, discount: 1 })
    while (planner.status.outcome === 'running') planner.sweep()
    expect(planner.status.outcome).toBe('converged')
    expect(planner.values[0]).toBe(-301)
  })

  it('says so where a direct solution would be too large', () => {
    // Every one of 3,000 states leads to every other one: nothing is sparse.
    const many = 3000
    const random = new ModelBuilder()
    for (let s = 0; s <= many; s++) random.newState(`s${s}`)
    for (let s = 0; s < many; s++) {
      const row = random.newRow(s, random.action('go'))
      for (let k = 0; k <= 600; k++) random.outcome(row, (s * 7 + k * 5 + 1) % (many + 1), 1 / 601, 1)
    }
    const model = random.build({ starts: [{ state: 0, weight: 1 }], cap: 10 })
    expect(evaluatePolicy(model, randomPolicy(model), 0.9, { direct: true }).outcome).toBe('too-large')
    expect(evaluatePolicy(model, randomPolicy(model), 0.9).outcome).toBe('solved')
  })
})
