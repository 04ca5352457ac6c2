import { describe, expect, it } from 'vitest'
import { startValue } from '../model/model'
import { gridModel, randomModel, type RationalModel } from '../testing/models'
import { add, fraction, isLess, solve, subtract, times, toNumber, type Fraction } from '../testing/rational'
import { actionValues, greedyPolicy } from './backup'
import { actionValuesAt } from './moment'
import { PLAN_DEFAULTS } from './plan-settings'
import { BackwardInduction, ValueIteration } from './value-iteration'

function plan(model: RationalModel['model'], discount: number, tolerance = 1e-10) {
  const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount, tolerance })
  while (iteration.status.outcome === 'running') iteration.sweep()
  return iteration
}

/** The best value of each state over every deterministic policy, each solved exactly. */
function bestByEnumeration({ rows }: RationalModel, discount: Fraction): Fraction[] {
  const n = rows.length
  let best: Fraction[] | undefined
  const choice = new Array(n).fill(0)
  for (;;) {
    const matrix = rows.map((_, s) => rows.map((_, k) => fraction(s === k ? 1 : 0)))
    const right = rows.map(() => fraction(0))
    rows.forEach((actions, s) => {
      for (const { next, chance, reward } of actions[choice[s]] ?? []) {
        matrix[s][next] = subtract(matrix[s][next], times(discount, chance))
        right[s] = add(right[s], times(chance, reward))
      }
    })
    const values = solve(matrix, right)
    best = best ? best.map((value, s) => (isLess(value, values[s]) ? values[s] : value)) : values
    let s = 0
    while (s < n && choice[s] + 1 >= Math.max(1, rows[s].length)) choice[s++] = 0
    if (s === n) return best
    choice[s]++
  }
}

describe('value iteration', () => {
  it('solves a corridor worked out by hand', () => {
    // C1 pays 10 on entering: V(B1) = -1 + 10 = 9, V(A1) = -1 + 0.9 x 9 = 7.1.
    const model = gridModel(['...'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'C1', reward: 10, name: '' }],
    })
    const { values, status } = plan(model, 0.9)
    expect(status.outcome).toBe('converged')
    expect([...values]).toEqual([expect.closeTo(7.1, 12), expect.closeTo(9, 12), 0])
    expect(startValue(model, values)).toBeCloseTo(7.1, 12)
  })

  it('weighs a veer as worked out by hand', () => {
    // A1 is a cell with walls around it but for B1, the ending. East gets there with chance 0.6, south and north
    // never, west with chance 0: V = 0.6 (-1 + 5) + 0.4 (-1 + 0.5 V), so V = (2.4 - 0.4) / 0.8 = 2.5.
    const model = gridModel(['..'], { endings: [{ at: 'B1', reward: 5, name: '' }], veer: 0.4 })
    expect(plan(model, 0.5).values[0]).toBeCloseTo(2.5, 9)
  })

  it('finds the optimum that exact enumeration of all policies finds', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const random = randomModel(seed, 5)
      const expected = bestByEnumeration(random, fraction(9, 10))
      const { values, bound } = plan(random.model, 0.9)
      expect(bound).toBeLessThanOrEqual(1e-10)
      expected.forEach((value, s) => expect(Math.abs(values[s] - toNumber(value))).toBeLessThan(1e-9))
    }
  })

  it('keeps its promise on the error at discounts 0, 0.999 and 1', () => {
    const model = gridModel(['....', '.#:.', '....'], {
      starts: [{ at: 'A3', weight: 1 }],
      endings: [
        { at: 'D1', reward: 10, name: '' },
        { at: 'D2', reward: -10, name: '' },
      ],
      veer: 0.2,
    })
    for (const discount of [0, 0.999, 1]) {
      const rough = plan(model, discount, 1e-3)
      const fine = plan(model, discount, 1e-12)
      expect(rough.status.outcome).toBe('converged')
      rough.values.forEach((value, s) =>
        expect(Math.abs(value - fine.values[s])).toBeLessThanOrEqual(rough.bound),
      )
      // A fixed point of the optimality equation, whatever the way there.
      const rowValues = actionValues(fine.form, fine.values)
      for (let s = 0; s < model.states; s++) {
        if (model.ending[s]) continue
        const best = Math.max(...rowValues.subarray(model.rowStart[s], model.rowStart[s + 1]))
        expect(Math.abs(best - fine.values[s])).toBeLessThan(1e-10)
      }
    }
  })

  it('keeps ties as ties', () => {
    const model = gridModel(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: '' }] })
    const { form, values } = plan(model, 0.9)
    const policy = greedyPolicy(model.rowStart, actionValues(form, values))
    expect([...policy.subarray(0, 4)]).toEqual([0, 0.5, 0.5, 0])
  })

  it('reports states without a way to an ending at discount 1, and solves them below', () => {
    const floor = ['..#.']
    const model = gridModel(floor, {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    })
    expect(plan(model, 1).status).toEqual({ outcome: 'never-ends', states: ['A1', 'B1'] })
    // Walking for ever at -1 a step: -1 / (1 - 0.9).
    expect(plan(model, 0.9).values[0]).toBeCloseTo(-10, 8)
  })

  it('notices reward that can be collected for ever at discount 1', () => {
    const model = gridModel(['...'], { stepReward: 1, endings: [{ at: 'C1', reward: 5, name: '' }] })
    expect(plan(model, 1).status).toEqual({ outcome: 'gains-for-ever', states: ['A1', 'B1'] })
  })

  it('plans a finite horizon as counted by hand', () => {
    const model = gridModel(['....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 10, name: '' }],
    })
    const planHorizon = (horizon: number) => {
      const planner = new BackwardInduction(model, { ...PLAN_DEFAULTS, discount: 1, horizon })
      while (planner.status.outcome === 'running') planner.sweep()
      expect([planner.sweeps, planner.status.outcome]).toEqual([horizon, 'converged'])
      return planner
    }
    expect(planHorizon(2).values[0]).toBe(-2)
    expect(planHorizon(3).values[0]).toBe(7)
    expect(planHorizon(50).values[0]).toBe(7)
    // With two steps to go the door is out of reach of A1, and any action is as good as any other: B1 walks on.
    const policyWith = (left: number) =>
      greedyPolicy(model.rowStart, actionValuesAt(planHorizon(left), null, true))
    expect([...policyWith(2)].slice(0, 8)).toEqual([0.25, 0.25, 0.25, 0.25, 0, 1, 0, 0])
    expect([...policyWith(3)].slice(0, 4)).toEqual([0, 1, 0, 0])
  })
})
