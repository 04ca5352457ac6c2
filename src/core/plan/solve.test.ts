import { createPlanner } from './planners'
import { expect, it } from 'vitest'
import { playTrials } from '../evaluate/rollout'
import { scorePolicies } from '../evaluate/scores'
import { World } from '../learn/world'
import { chancyGrid } from '../testing/learning'
import { gridModel } from '../testing/models'
import { evaluatePolicy } from './evaluate'
import { PLAN_DEFAULTS } from './plan-settings'
import { defaultPlanMethod } from './plan-methods'
import { OPTIMUM_TOLERANCE, OptimumSearch, solveOptimum } from './solve'

it('there is one optimum, whoever asks for it and however it is sliced', () => {
  const model = chancyGrid()
  const whole = solveOptimum(model, 0.9)!
  const sliced = new OptimumSearch(model, 0.9)
  expect(sliced.optimum).toBeNull()
  while (sliced.advance());
  expect([...sliced.optimum!.values]).toEqual([...whole.values])
  // What the command line plans by default.
  const planner = createPlanner(defaultPlanMethod(model), model, { ...PLAN_DEFAULTS, discount: 0.9 })
  while (planner.status.outcome === 'running') planner.sweep()
  expect(PLAN_DEFAULTS.tolerance).toBe(OPTIMUM_TOLERANCE)
  expect([...planner.values]).toEqual([...whole.values])
  // What scores say of the best policy is what that policy is worth.
  const best = scorePolicies(model, [], [], 0.9).find(({ optimal }) => optimal)!
  expect(best.value).toBeCloseTo(whole.start, 9)
})

it('its policy is worth its values, exactly, and is taken by trials', () => {
  const model = chancyGrid()
  const { policy, ties, start } = solveOptimum(model, 0.9)!
  for (const each of [policy, ties]) {
    const { values } = evaluatePolicy(model, each, 0.9)
    expect(values[model.startState[0]]).toBeCloseTo(start, 9)
  }
  const trials = playTrials(new World(model), policy, { episodes: 4000, seed: 2, cap: 200, discount: 0.9 })
  expect(Math.abs(trials.mean - start)).toBeLessThan(4 * trials.standardError!)
})

it('is null where no value is finite', () => {
  const walled = gridModel(['.#.'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'C1', reward: 1, name: '' }],
  })
  expect(solveOptimum(walled, 1)).toBeNull()
  expect(solveOptimum(walled, 0.5)!.start).toBeCloseTo(-2, 8)
})
