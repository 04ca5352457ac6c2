import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ProblemError } from '../problem'
import { readValues } from './value-range'

describe('lists of values', () => {
  it.each([
    ['0.5', [0.5]],
    ['0, 0.1, 1/4', [0, 0.1, 0.25]],
    ['0.1..1/10', [0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1]],
    ['-2..2/5', [-2, -1, 0, 1, 2]],
    ['1/8..1*2', [0.125, 0.25, 0.5, 1]],
    ['0.01..1*10', [0.01, 0.1, 1]],
    ['1..1000*3', [1, 3, 9, 27, 81, 243, 729]],
    // Both kinds together, each value once, in order.
    ['1, 0, 0..1/3', [0, 0.5, 1]],
    [' 1e-3 , 2E2 ', [0.001, 200]],
  ])('%s', (text, values) => {
    expect(readValues(text)).toEqual(values)
  })

  it.each([
    ['', 'missing'],
    ['0.1,,0.2', 'missing'],
    ['a', 'not a number'],
    ['1/0', 'not a number'],
    ['0.1..1', 'not a number'],
    ['1..0/3', 'not larger'],
    ['0..1/1', '1 values'],
    ['0..1/2.5', '2.5 values'],
    ['0..1*2', 'never comes'],
    ['1..9*1', 'never comes'],
    ['1e-300..1*1.0001', 'values'],
    ['0..1/201', '201 values'],
    ['0..1/150, 2..3/150', '300 values'],
  ])('refuses "%s" and says why', (text, cause) => {
    expect(() => readValues(text, 'learning rate')).toThrow(ProblemError)
    expect(() => readValues(text, 'learning rate')).toThrow(cause)
    expect(() => readValues(text, 'learning rate')).toThrow('learning rate: ')
  })

  it('an even range has as many as were asked for, its ends among them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 2, max: 60 }),
        (from, span, count) => {
          const values = readValues(`${from}..${from + span}/${count}`)
          expect(values).toHaveLength(count)
          expect([values[0], values[count - 1]]).toEqual([from, from + span])
        },
      ),
    )
  })
})
