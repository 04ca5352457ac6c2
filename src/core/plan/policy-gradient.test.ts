import { describe, expect, it } from 'vitest'
import { World } from '../learn/world'
import { ModelBuilder } from '../model/builder'
import { startValue, type Model } from '../model/model'
import { RandomStream } from '../random/generator'
import { chancyGrid } from '../testing/learning'
import { gridModel, randomModel } from '../testing/models'
import { evaluatePolicy, randomPolicy } from './evaluate'
import { policyGradient, softmaxGradient } from './policy-gradient'

/** The softmax of preferences, [tableRows], as a policy over the model's rows. */
function softmax(world: World, preferences: Float64Array, temperature = 1): Float64Array {
  const { tableStart } = world
  const policy = new Float64Array(preferences.length)
  for (let o = 0; o + 1 < tableStart.length; o++) {
    const part = preferences.subarray(tableStart[o], tableStart[o + 1])
    const total = part.reduce((sum, x) => sum + Math.exp(x / temperature), 0)
    part.forEach((x, k) => (policy[tableStart[o] + k] = Math.exp(x / temperature) / total))
  }
  return world.toModelRows(policy)
}

/** Two rooms that look alike, where one wants the opposite of the other. */
function lookAlike(): Model {
  const builder = new ModelBuilder()
  const [left, right, end] = ['left', 'right', 'end'].map((label) => builder.state(label))
  builder.outcome(builder.row(left, builder.action('back')), left, 1, -1)
  builder.outcome(builder.row(left, builder.action('on')), right, 1, -1)
  builder.outcome(builder.row(right, builder.action('back')), end, 1, 5)
  builder.outcome(builder.row(right, builder.action('on')), left, 1, -1)
  return builder.build({
    starts: [{ state: left, weight: 1 }],
    cap: 400,
    observation: Int32Array.of(0, 0, 1),
  })
}

describe('the exact policy gradient', () => {
  it.each([
    ['a grid with chance', chancyGrid(), 0.9],
    ['a random model', randomModel(4, 8).model, 0.95],
    ['another one, undiscounted', randomModel(9, 6).model, 1],
    ['rooms that look alike', lookAlike(), 1],
  ])('of %s is what differences of the exact value say', (_, model, discount) => {
    const world = new World(model)
    const stream = new RandomStream(2, 'method')
    for (const temperature of [1, 0.5]) {
      const preferences = Float64Array.from({ length: world.tableRows }, () => 2 * stream.uniform() - 1)
      const worth = (at: Float64Array) => {
        const result = evaluatePolicy(model, softmax(world, at, temperature), discount)
        expect(result.outcome).toBe('solved')
        return startValue(model, result.values)
      }
      const policy = softmax(world, preferences, temperature)
      const exact = policyGradient(model, policy, discount)!
      expect(exact.start).toBeCloseTo(worth(preferences), 9)
      const gradient = softmaxGradient(model, world.tableStart, policy, exact, temperature)
      preferences.forEach((_, row) => {
        const moved = (by: number) => worth(preferences.map((x, r) => (r === row ? x + by : x)))
        const difference = (moved(1e-5) - moved(-1e-5)) / 2e-5
        expect(Math.abs(gradient[row] - difference)).toBeLessThan(1e-6 * Math.max(1, Math.abs(difference)))
      })
    }
  })

  it('meets the states of a corridor as often as worked out by hand', () => {
    // East only: A1, B1, C1, each once, later ones discounted.
    const model = gridModel(['....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    })
    const east = model.actions.indexOf('east')
    const policy = Float64Array.from(model.rowAction, (action) => (action === east ? 1 : 0))
    const { occupancy, advantages, values } = policyGradient(model, policy, 0.5)!
    expect([...occupancy]).toEqual([1, 0.5, 0.25, 0])
    // Going west from B1 and then on: -1 + 0.5 x V(A1), where V(A1) = -1 - 0.5 + 0.25 x 0 = -1.5.
    expect([...values]).toEqual([-1.5, -1, 0, 0])
    const west =
      model.rowStart[1] +
      [...model.rowAction.subarray(model.rowStart[1])].indexOf(model.actions.indexOf('west'))
    expect(advantages[west]).toBeCloseTo(-1 + 0.5 * -1.5 - -1, 12)
  })

  it('has none where the policy may never end', () => {
    const model = gridModel(['..'], {
      endings: [{ at: 'B1', reward: 1, name: '' }],
      starts: [{ at: 'A1', weight: 1 }],
    })
    const west = model.actions.indexOf('west')
    const policy = Float64Array.from(model.rowAction, (action) => (action === west ? 1 : 0))
    expect(policyGradient(model, policy, 1)).toBeNull()
    expect(policyGradient(model, policy, 0.9)).not.toBeNull()
  })

  it('of a large model is followed step by step, to the same numbers', () => {
    const model = gridModel(
      Array.from({ length: 30 }, () => '.'.repeat(30)),
      { starts: [{ at: 'A1', weight: 1 }], endings: [{ at: 'AD30', reward: 5, name: '' }] },
    )
    const policy = randomPolicy(model)
    const { occupancy, start } = policyGradient(model, policy, 0.9)!
    // Every step costs 1, and the last one, from one of two cells, pays 5.
    const steps = occupancy.reduce((sum, times) => sum + times, 0)
    const last = model.labels.indexOf('AC30')
    const above = model.labels.indexOf('AD29')
    expect(start).toBeCloseTo(-steps + 5 * 0.25 * (occupancy[last] + occupancy[above]), 8)
  })
})
