import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { GridEnvironment } from '../kinds/grid/kind'
import { compileEnvironment } from '../environment/compile'
import { BONUS_QUESTIONS, gridWithBonuses, type BonusQuestion } from '../kinds/grid/without-bonuses'
import type { Model } from '../model/model'
import { gridDocument, gridModel, randomModel } from '../testing/models'
import { actionValues, greedyPolicy } from './backup'
import { carryValues } from './carry'
import { comparePlans, type HeldPlan } from './difference'
import { PLAN_DEFAULTS } from './plan-settings'
import { shapedModel } from './shaping'
import { planHorizon } from './horizon'
import { BackwardInduction, ValueIteration } from './value-iteration'

function planned(model: Model, discount: number): HeldPlan & { readonly model: Model } {
  const planner = new ValueIteration(model, { ...PLAN_DEFAULTS, discount, tolerance: 1e-11 })
  while (planner.status.outcome === 'running') planner.sweep()
  return {
    model,
    values: planner.values,
    policy: greedyPolicy(model.rowStart, actionValues(planner.form, planner.values)),
  }
}
const ROOM = {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [
    { at: 'E1', reward: 10, name: '' },
    { at: 'A3', reward: 4, name: '' },
  ],
}

describe('the difference of two plans', () => {
  it('of a plan and itself is nothing', () => {
    const plan = planned(gridModel(['.....', '.....', '.....'], ROOM), 0.9)
    const difference = comparePlans(plan.model, plan.values, plan.policy, plan)
    expect([difference.turnedCount, difference.largest, difference.unmatched]).toEqual([0, 0, 0])
    expect(difference.compared).toBe(13)
    expect([...difference.policy]).toEqual([...plan.policy])
  })

  it('counts the states that turn, and says where values moved most', () => {
    // With 0.9 the far ending draws A1 (-1 - 0.9 - 0.81 + 0.729 x 9 = 3.85 > -1 + 0.9 x 3 = 1.7), with 0.3 the near one.
    const model = gridModel(['.....', '.....', '.....'], ROOM)
    const [far, near] = [planned(model, 0.9), planned(model, 0.3)]
    const { turned, turnedCount, largest, largestState, values } = comparePlans(
      model,
      near.values,
      near.policy,
      far,
    )
    const a1 = model.labels.indexOf('A1')
    expect(turned[a1]).toBe(1)
    expect(turnedCount).toBe(turned.reduce((sum, x) => sum + x, 0))
    expect(values[a1]).toBeCloseTo(near.values[a1] - far.values[a1], 12)
    const numbers = [...values].filter((x) => !Number.isNaN(x))
    expect(Math.abs(largest)).toBe(Math.max(...numbers.map(Math.abs)))
    expect(values[largestState]).toBe(largest)
  })

  it('matches states by name where walls came and went', () => {
    const before = planned(gridModel(['.....', '.....', '.....'], ROOM), 0.9)
    const after = planned(gridModel(['.#...', '.....', '.....'], ROOM), 0.9)
    const difference = comparePlans(after.model, after.values, after.policy, before)
    expect(difference.compared).toBe(12)
    expect(difference.unmatched).toBe(0)
    const c2 = after.model.labels.indexOf('C2')
    expect(difference.values[c2]).toBeCloseTo(
      after.values[c2] - before.values[before.model.labels.indexOf('C2')],
      12,
    )
    const back = comparePlans(before.model, before.values, before.policy, after)
    expect(back.unmatched).toBe(1)
    expect(back.values[before.model.labels.indexOf('B1')]).toBeNaN()
  })

  it('a warm start from values carried over by name ends where a cold one does', () => {
    const before = planned(gridModel(['.....', '.....', '.....'], ROOM), 0.9)
    const model = gridModel(['.#...', '.....', '.....'], ROOM)
    const initial = carryValues(before.model, before.values, model)
    expect(initial[model.labels.indexOf('D2')]).toBe(before.values[before.model.labels.indexOf('D2')])
    const warm = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9, initial })
    while (warm.status.outcome === 'running') warm.sweep()
    const cold = planned(model, 0.9)
    warm.values.forEach((value, s) => expect(value).toBeCloseTo(cold.values[s], 8))
    const sweepsCold = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9 })
    while (sweepsCold.status.outcome === 'running') sweepsCold.sweep()
    expect(warm.sweeps).toBeLessThanOrEqual(sweepsCold.sweeps)
  })
})

describe('shaping by a potential', () => {
  it('moves the values by the potential and the best policy not at all', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.constantFrom(0.5, 0.9, 0.99),
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 7, maxLength: 7 }),
        (seed, discount, numbers) => {
          const { model } = randomModel(seed, 7)
          const plain = planned(model, discount)
          const shaped = planned(shapedModel(model, Float64Array.from(numbers), discount), discount)
          shaped.values.forEach((value, s) =>
            expect(value).toBeCloseTo(model.ending[s] ? 0 : plain.values[s] - numbers[s], 7),
          )
          expect(comparePlans(model, shaped.values, shaped.policy, plain).turnedCount).toBe(0)
        },
      ),
      { numRuns: 80 },
    )
  })

  // A bonus that pays every time in a dead end is worth more than the way out: the agent goes in and out for ever.
  const document = (once: boolean): GridEnvironment =>
    gridDocument(['....', '#.#.', '#.#.'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D3', reward: 10, name: '' }],
      bonuses: [{ at: 'B3', reward: 6, once, name: '' }],
    })

  it.each([true, false])('bonuses bend the best policy, as a potential they do not (once: %s)', (once) => {
    const whole = compileEnvironment(document(once)).model
    const models = Object.fromEntries(
      (Object.keys(BONUS_QUESTIONS) as BonusQuestion[]).map((question) => [
        question,
        gridWithBonuses(document(once), question),
      ]),
    ) as Record<BonusQuestion, Model>
    expect(models.nothing.labels).toEqual(whole.labels)
    const [asIs, nothing, potential] = [whole, models.nothing, models.potential].map((model) =>
      planned(model, 0.9),
    )
    expect(comparePlans(whole, asIs.values, asIs.policy, nothing).turnedCount).toBeGreaterThan(0)
    expect(comparePlans(whole, potential.values, potential.policy, nothing).turnedCount).toBe(0)
    // At B1 the bonus draws down instead of on.
    const b1 = whole.labels.indexOf('B1')
    const south = whole.rowStart[b1] + 2
    expect([asIs.policy[south], nothing.policy[south]]).toEqual([1, 0])
  })
})

it('all stages of a horizon are those of horizons one by one', () => {
  const model = gridModel(['....', '.#:.'], {
    ...ROOM,
    endings: [{ at: 'D2', reward: 5, name: '' }],
    veer: 0.2,
  })
  const stages = planHorizon(model, 0.9, 6)
  expect(stages.count).toBe(6)
  for (const left of [1, 4, 6]) {
    const planner = new BackwardInduction(model, { ...PLAN_DEFAULTS, discount: 0.9, horizon: left })
    while (planner.status.outcome === 'running') planner.sweep()
    expect([...stages.values.subarray((left - 1) * model.states, left * model.states)]).toEqual([
      ...planner.values,
    ])
    const policy = greedyPolicy(model.rowStart, actionValues(planner.form, planner.before))
    expect([...stages.policy.subarray((left - 1) * model.rows, left * model.rows)]).toEqual([...policy])
  }
})
