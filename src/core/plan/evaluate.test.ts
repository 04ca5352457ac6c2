import { describe, expect, it } from 'vitest'
import { compileGrid } from '../grid/compile'
import { gridDocument, gridModel, randomModel } from '../testing/models'
import { add, fraction, solve, subtract, times, toNumber } from '../testing/rational'
import { evaluatePolicy, firstPolicy, randomPolicy } from './evaluate'

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
    expect(evaluatePolicy(model, firstPolicy(model), 1)).toEqual({ outcome: 'never-ends', states: ['A1'] })
    const discounted = evaluatePolicy(model, firstPolicy(model), 0.5)
    expect(discounted.outcome === 'solved' && discounted.values[0]).toBeCloseTo(-2, 12)
  })

  it('stops when its budget of sweeps is spent, and says so', () => {
    const model = gridModel(['....................'], { endings: [{ at: 'T1', reward: 5, name: '' }] })
    const result = evaluatePolicy(model, randomPolicy(model), 0.9999, {
      initial: new Float64Array(model.states),
      sweeps: 3,
    })
    expect(result.outcome).toBe('budget-spent')
  })
})
