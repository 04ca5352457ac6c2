import { describe, expect, it } from 'vitest'
import { World } from '../learn/world'
import { startValue } from '../model/model'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { gridModel, randomModel } from '../testing/models'
import { policyObject, readPolicy, valuesObject } from './policy-file'
import { samplePolicy } from './sample'

describe('samplePolicy', () => {
  it('comes within four standard errors of the exact value', () => {
    for (const seed of [2, 3, 4]) {
      const { model } = randomModel(seed, 6)
      const policy = randomPolicy(model)
      const exact = evaluatePolicy(model, policy, 0.9)
      if (exact.outcome !== 'solved') throw new Error(exact.outcome)
      const sample = samplePolicy(new World(model), policy, {
        discount: 0.9,
        episodes: 20000,
        cap: 400,
        seed,
      })
      expect(Math.abs(sample.mean - startValue(model, exact.values))).toBeLessThan(4 * sample.standardError)
      sample.values.forEach((value, s) => {
        if (!Number.isNaN(value)) expect(Math.abs(value - exact.values[s])).toBeLessThan(0.7)
      })
    }
  })

  it('counts steps and episodes that the cap cuts off', () => {
    const model = gridModel(['.....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'E1', reward: 1, name: '' }],
    })
    const sample = samplePolicy(new World(model), randomPolicy(model), {
      discount: 1,
      episodes: 10,
      cap: 3,
      seed: 1,
    })
    expect(sample).toMatchObject({ episodes: 10, steps: 30, cutOff: 10, mean: -3, standardError: 0 })
  })
})

describe('readPolicy', () => {
  const model = gridModel(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }] })

  it('reads actions, chances and the answer of a plan', () => {
    expect([...readPolicy(model, { A1: 'east', B1: { west: 0.25, north: 0.75 } })]).toEqual([
      0, 1, 0, 0, 0.75, 0, 0, 0.25,
    ])
    expect(readPolicy(model, { method: 'x', policy: { A1: 'east', B1: 'east' } })[1]).toBe(1)
  })

  it.each([
    [null, /not an object/],
    [{ A1: 'east' }, /state "B1": No action is named/],
    [{ A1: 'up', B1: 'east' }, /state "A1": It has no action "up". Use one of north, east, south, west/],
    [{ A1: { east: 0.5 }, B1: 'east' }, /The chances sum to 0.5/],
    [{ A1: { east: -1 }, B1: 'east' }, /The chance of "east" is -1/],
  ])('refuses %j', (value, message) => {
    expect(() => readPolicy(model, value)).toThrow(message)
  })

  it('writes what it reads', () => {
    const policy = readPolicy(model, { A1: 'east', B1: 'south' })
    expect(policyObject(model, policy)).toEqual({ A1: 'east', B1: 'south' })
    expect(valuesObject(model, Float64Array.of(1, NaN, 0))).toEqual({ A1: 1, C1: 0 })
  })
})
