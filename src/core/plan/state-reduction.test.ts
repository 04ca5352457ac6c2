import { describe, expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { randomModel } from '../testing/models'
import { add, fraction, solve, subtract, times, toNumber } from '../testing/rational'
import { chainOf, preciseResidual, type Chain } from './chain'
import { randomPolicy } from './evaluate'
import { StateReduction } from './state-reduction'

/** A chain whose states lead on to the next one, back to the one before, and out by a tiny chance. */
function corridor(length: number, out: number): Chain {
  const start = new Int32Array(length + 1)
  const next: number[] = []
  const weight: number[] = []
  for (let s = 0; s < length; s++) {
    const sides = [s - 1, s + 1].filter((to) => to >= 0 && to < length)
    for (const to of sides) {
      next.push(to)
      weight.push((1 - out) / sides.length)
    }
    start[s + 1] = next.length
  }
  return {
    states: length,
    start,
    next: Int32Array.from(next),
    weight: Float64Array.from(weight),
    reward: new Float64Array(length).fill(1),
    leak: new Float64Array(length).fill(out),
    origin: Int32Array.from({ length }, (_, s) => s),
  }
}

describe('state reduction', () => {
  it('solves what exact fractions solve', () => {
    for (let seed = 40; seed < 50; seed++) {
      const { model, rows } = randomModel(seed, 8)
      const discount = fraction(9, 10)
      const matrix = rows.map((_, s) => rows.map((_, k) => fraction(s === k ? 1 : 0)))
      const right = rows.map((_, s) => fraction(s + 1))
      rows.forEach((actions, s) => {
        if (actions.length === 0) right[s] = fraction(0)
        for (const outcomes of actions)
          for (const { next, chance } of outcomes)
            matrix[s][next] = subtract(
              matrix[s][next],
              times(discount, times(chance, fraction(1, actions.length))),
            )
      })
      const exact = solve(matrix, right).map(toNumber)
      const inside = Uint8Array.from(model.ending, (ending) => 1 - ending)
      const chain = chainOf(model, randomPolicy(model), 0.9, inside)
      const found = StateReduction.of(chain)!.solve(Float64Array.from(chain.origin, (s) => s + 1))
      chain.origin.forEach((s, i) => expect(Math.abs(found[i] / exact[s] - 1)).toBeLessThan(1e-14))
    }
  })

  it('is exact however small the chance of ending is: 1 over it steps from everywhere', () => {
    for (const out of [1e-3, 1e-9, 1e-15])
      for (const length of [1, 2, 40, 700]) {
        const chain = corridor(length, out)
        // A corridor of one room only waits.
        if (length === 1) continue
        for (const steps of StateReduction.of(chain)!.solve(chain.reward))
          expect(Math.abs(steps * out - 1)).toBeLessThan(1e-12)
      }
  })

  it('takes a dense rest as a full matrix, to the same numbers', () => {
    const stream = new RandomStream(3, 'environment')
    const states = 90
    const start = Int32Array.from({ length: states + 1 }, (_, s) => s * states)
    const next = Int32Array.from({ length: states * states }, (_, k) => k % states)
    const weight = new Float64Array(states * states)
    const leak = new Float64Array(states)
    for (let s = 0; s < states; s++) {
      const parts = Array.from({ length: states + 1 }, () => 1 + stream.below(9))
      const total = parts.reduce((sum, part) => sum + part, 0)
      for (let k = 0; k < states; k++) weight[s * states + k] = parts[k] / total
      leak[s] = parts[states] / total
    }
    const reward = Float64Array.from({ length: states }, () => stream.below(21) - 10)
    const origin = Int32Array.from({ length: states }, (_, s) => s)
    const chain: Chain = { states, start, next, weight, reward, leak, origin }
    const values = StateReduction.of(chain)!.solve(reward)
    const size = values.reduce((most, value) => Math.max(most, Math.abs(value)), 1)
    for (const left of preciseResidual(chain, values)) expect(Math.abs(left)).toBeLessThan(1e-13 * size)
  })

  it('adds up what leads to one state twice', () => {
    const twice: Chain = {
      states: 2,
      start: Int32Array.of(0, 2, 2),
      next: Int32Array.of(1, 1),
      weight: Float64Array.of(0.25, 0.5),
      reward: Float64Array.of(0, 8),
      leak: Float64Array.of(0.25, 1),
      origin: Int32Array.of(0, 1),
    }
    expect([...StateReduction.of(twice)!.solve(twice.reward)]).toEqual([6, 8])
  })
})

describe('the residual', () => {
  it('is that of the equations, to more than the last bit', () => {
    const chain = corridor(5, 0.25)
    const values = StateReduction.of(chain)!.solve(chain.reward)
    values[2] += 2 ** -40
    const left = preciseResidual(chain, values)
    // Two neighbours see three eighths of it, the state itself is off by the whole.
    expect(left[1]).toBeCloseTo(0.375 * 2 ** -40, 20)
    expect(left[2]).toBeCloseTo(-(2 ** -40), 20)
    expect(Math.abs(left[0])).toBeLessThan(2 ** -50)
    expect(toNumber(add(fraction(1, 2), fraction(1, 3)))).toBeCloseTo(5 / 6, 15)
  })
})
