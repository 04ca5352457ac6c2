import { describe, expect, it } from 'vitest'
import sameLookingDoors from '../../../demo/same-looking-doors.json' with { type: 'json' }
import { compileEnvironment } from '../environment/compile'
import type { EnvironmentDocument } from '../kinds/kinds'
import { ModelBuilder } from '../model/builder'
import { Landscape, LANDSCAPE_SCALES, observationOfRow, preferencesWith, withProbability } from './landscape'
import { World } from './world'

/** One state: “on” pays 2 and ends, “off” pays 1 and ends, “round” pays nothing and stays. */
function choice(): World {
  const builder = new ModelBuilder()
  const [s, other, end] = ['s', 'other', 'end'].map((label) => builder.state(label))
  builder.outcome(builder.row(s, builder.action('on')), other, 1, 2)
  builder.outcome(builder.row(s, builder.action('off')), end, 1, 1)
  builder.outcome(builder.row(s, builder.action('round')), s, 1, 0)
  builder.outcome(builder.row(other, builder.action('on')), end, 1, 0)
  builder.outcome(builder.row(other, builder.action('off')), end, 1, 4)
  return new World(builder.build({ starts: [{ state: s, weight: 1 }], cap: 10 }))
}

const EVEN = Float64Array.of(1 / 3, 1 / 3, 1 / 3, 0.5, 0.5)

describe('other probabilities', () => {
  const world = choice()

  it('leave the other actions in their proportions', () => {
    const policy = Float64Array.of(0.2, 0.6, 0.2, 0.5, 0.5)
    expect([...withProbability(world, policy, 0, 0.6)]).toEqual(
      [0.6, 0.3, 0.1, 0.5, 0.5].map((x) => expect.closeTo(x, 12)),
    )
    // Of a policy that never takes the others, they share alike.
    expect([...withProbability(world, Float64Array.of(1, 0, 0, 0.5, 0.5), 0, 0.5)]).toEqual([
      0.5, 0.25, 0.25, 0.5, 0.5,
    ])
    expect([0, 1, 2, 3, 4].map((row) => observationOfRow(world, row))).toEqual([0, 0, 0, 1, 1])
  })

  it('are reached by preferences, whose softmax they are', () => {
    for (const temperature of [1, 0.5])
      for (const probability of [0.1, 0.9]) {
        const set = preferencesWith(world, new Float64Array(5), EVEN, temperature, 1, probability)
        const powers = [0, 1, 2].map((r) => Math.exp(set[r] / temperature))
        const sum = powers[0] + powers[1] + powers[2]
        expect(powers[1] / sum).toBeCloseTo(probability, 9)
        expect(powers[0] / sum).toBeCloseTo((1 - probability) / 2, 9)
        expect(set[0] + set[1] + set[2]).toBeCloseTo(0, 12)
        expect([set[3], set[4]]).toEqual([0, 0])
      }
    for (const x of preferencesWith(world, new Float64Array(5), EVEN, 1, 1, 0))
      expect(Number.isFinite(x)).toBe(true)
  })
})

describe('the landscape', () => {
  it('over one probability is what fractions say', () => {
    // With p for “on”, (1 − p) / 2 each for “off” and “round”, discount 1/2:
    // V = p (2 + 1/2 × 2) + (1 − p)/2 × 1 + (1 − p)/2 × V/2, as the other room is worth 2.
    const landscape = new Landscape(choice(), EVEN, [0], 5, 0.5)
    landscape.advance(3)
    expect(landscape.finished).toBe(false)
    landscape.advance(100)
    ;[0, 0.25, 0.5, 0.75, 1].forEach((p, i) => {
      const value = (3 * p + (1 - p) / 2) / (1 - (1 - p) / 4)
      expect(landscape.values[i]).toBeCloseTo(value, 12)
    })
  })

  it('over preferences is the same one, bent: log-odds for probabilities', () => {
    const landscape = new Landscape(choice(), EVEN, [0], 5, 0.5, 'preference')
    landscape.advance(5)
    ;[-6, -3, 0, 3, 6].forEach((preference, i) => {
      const p = Math.exp(preference) / (1 + Math.exp(preference))
      expect(landscape.values[i]).toBeCloseTo((3 * p + (1 - p) / 2) / (1 - (1 - p) / 4), 12)
    })
    const { toProbability, fromProbability } = LANDSCAPE_SCALES.preference
    for (const p of [0.01, 0.5, 0.9]) expect(toProbability(fromProbability(p))).toBeCloseTo(p, 12)
    // Certain actions lie at the ends.
    expect([0, 1].map(fromProbability)).toEqual([-6, 6])
  })

  it('over two has the first axis running fastest', () => {
    const landscape = new Landscape(choice(), EVEN, [0, 4], 3, 0.5)
    landscape.advance(9)
    const value = (p: number, q: number) => (p * (2 + 2 * q) + (1 - p) / 2) / (1 - (1 - p) / 4)
    for (const [k, [p, q]] of [
      [0, 0],
      [0.5, 0],
      [1, 0],
      [0, 0.5],
      [0.5, 0.5],
    ].entries())
      expect(landscape.values[k]).toBeCloseTo(value(p, q), 12)
  })

  it('has no height where the policy may never end', () => {
    const landscape = new Landscape(choice(), EVEN, [2], 3, 1)
    landscape.advance(3)
    expect(landscape.values[2]).toBeNaN()
    expect(landscape.values[1]).toBeGreaterThan(0)
  })

  it('of the same-looking doors is highest where the green ones are opened now and then', () => {
    const document = sameLookingDoors as unknown as EnvironmentDocument
    const { model } = compileEnvironment(document)
    const world = new World(model)
    const green = model.observation[model.labels.indexOf('door 2')]
    const on = model.actions.indexOf('on')
    // Elsewhere it walks on, and at green doors it walks on or opens.
    const policy = Float64Array.from(world.tableAction, (action) => (action === on ? 1 : 0))
    const landscape = new Landscape(world, policy, [world.tableStart[green]], 101, document.discount)
    landscape.advance(101)
    const best = landscape.values.reduce((top, value, i) => (value > landscape.values[top] ? i : top), 0)
    expect(best).toBeGreaterThan(5)
    expect(best).toBeLessThan(95)
  })
})
