import { describe, expect, it } from 'vitest'
import { gridModel } from '../testing/models'
import { policyObject, readPolicy, valuesObject } from './policy-file'

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
