import { describe, expect, it } from 'vitest'
import { constant } from '../../schedule'
import { LEARN_DEFAULTS, type LearnSettings } from '../../../settings/settings'
import { World } from '../../world'
import { ModelBuilder } from '../../../model/builder'
import { startValue } from '../../../model/model'
import { evaluatePolicy } from '../../../plan/evaluate'
import { PLAN_DEFAULTS } from '../../../plan/plan-settings'
import { ValueIteration } from '../../../plan/value-iteration'
import { twoStates } from '../../../testing/learning'
import { gridModel } from '../../../testing/models'
import { Reinforce } from './reinforce'

const BASE: LearnSettings = {
  ...LEARN_DEFAULTS,
  discount: 0.9,
  learningRate: constant(0.05),
  episodes: 1,
  cap: 50,
  seed: 1,
  run: 0,
}

describe('REINFORCE', () => {
  it('moves on average along the gradient of the exact start value', () => {
    const model = twoStates()
    const value = (preferences: number[]) => {
      const policy = new Float64Array(4)
      for (const s of [0, 2]) {
        const [x, y] = [Math.exp(preferences[s]), Math.exp(preferences[s + 1])]
        policy[s] = x / (x + y)
        policy[s + 1] = y / (x + y)
      }
      const result = evaluatePolicy(model, policy, 0.9)
      if (result.outcome !== 'solved') throw new Error(result.outcome)
      return startValue(model, result.values)
    }
    const gradient = [0, 1, 2, 3].map((i) => {
      const shifted = (h: number) => value([0, 1, 2, 3].map((k) => (k === i ? h : 0)))
      return (shifted(1e-5) - shifted(-1e-5)) / 2e-5
    })
    // One episode from zero preferences, many seeds; the rate is so small that the policy stays put meanwhile.
    const rate = 1e-6
    const runs = 40000
    const mean = [0, 0, 0, 0]
    const world = new World(model)
    for (let run = 0; run < runs; run++) {
      const learner = new Reinforce(world, { ...BASE, learningRate: constant(rate), cap: 400, run })
      learner.advance(1000)
      learner.table.forEach((preference, i) => (mean[i] += preference / rate / runs))
    }
    mean.forEach((step, i) => expect(Math.abs(step - gradient[i])).toBeLessThan(0.02))
    expect(Math.max(...gradient)).toBeGreaterThan(0.1)
  })

  it('updates as worked out by hand on an episode of one step', () => {
    const builder = new ModelBuilder()
    const [s, end] = [builder.state('s'), builder.state('end')]
    for (const name of ['left', 'right']) builder.outcome(builder.row(s, builder.action(name)), end, 1, 4)
    const model = builder.build({ starts: [{ state: s, weight: 1 }], cap: 10 })
    const learner = new Reinforce(new World(model), { ...BASE, learningRate: constant(0.5) })
    learner.advance(1)
    // 0.5 x 1 x 4 x (1 - 1/2) = 1 for the action taken, -1 for the other; softmax(1, -1) = 0.8808, 0.1192.
    const taken = learner.last.row
    expect(learner.table[taken]).toBe(1)
    expect(learner.table[1 - taken]).toBe(-1)
    expect(learner.policy()[taken]).toBeCloseTo(0.880797077978, 11)
    const line = learner.working(0)!.lines[taken]
    expect(line.strong).toBe(true)
    expect(line.parts.flatMap((part) => (part.value === undefined ? [] : [part.value]))).toEqual([
      0,
      0.5,
      1,
      4,
      1,
      0.5,
      1,
      expect.closeTo(0.8807970779, 9),
    ])
  })

  it('reaches the exact optimum of a small grid', () => {
    const model = gridModel(['...', '.#.', '...'], {
      starts: [{ at: 'A3', weight: 1 }],
      endings: [
        { at: 'C1', reward: 10, name: '' },
        { at: 'B1', reward: -5, name: '' },
      ],
    })
    const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9 })
    while (iteration.status.outcome === 'running') iteration.sweep()
    const learner = new Reinforce(new World(model), { ...BASE, episodes: 6000 })
    while (learner.advance(10000) > 0);
    const policy = learner.world.toModelRows(learner.policy())
    const result = evaluatePolicy(model, policy, 0.9)
    if (result.outcome !== 'solved') throw new Error(result.outcome)
    const optimum = startValue(model, iteration.values)
    expect(optimum - startValue(model, result.values)).toBeLessThan(0.15)
    // Taken by its most likely action, the policy is the optimum itself.
    const likely = policy.map((p, row) => {
      const s = model.labels.findIndex((_, k) => model.rowStart[k + 1] > row)
      return p === Math.max(...policy.subarray(model.rowStart[s], model.rowStart[s + 1])) ? 1 : 0
    })
    const sharp = evaluatePolicy(model, likely, 0.9)
    expect(sharp.outcome === 'solved' && startValue(model, sharp.values)).toBeCloseTo(optimum, 9)
  })

  it('keeps every probability a number with large returns and rates', () => {
    const model = gridModel(['..'], { stepReward: -1e6, endings: [{ at: 'B1', reward: 1e8, name: '' }] })
    const learner = new Reinforce(new World(model), { ...BASE, learningRate: constant(1), episodes: 200 })
    while (learner.advance(1000) > 0);
    for (const p of learner.policy()) expect(p >= 0 && p <= 1).toBe(true)
    for (const preference of learner.table) expect(Number.isFinite(preference)).toBe(true)
  })
})
