import { expect, it } from 'vitest'
import { logarithm } from './logarithm'

it('is the logarithm, over the whole range of numbers', () => {
  expect(logarithm(1)).toBe(0)
  for (let power = -300; power <= 300; power += 7)
    for (const digits of [1, 1.37, 2.718281828, 6.99, 9.5]) {
      const x = digits * 10 ** power
      expect(Math.abs(logarithm(x) - Math.log(x))).toBeLessThanOrEqual(
        4e-15 * Math.max(1, Math.abs(Math.log(x))),
      )
    }
})

it('has no value for what has none', () => {
  expect(logarithm(0)).toBeNaN()
  expect(logarithm(-1)).toBeNaN()
  expect(logarithm(Infinity)).toBe(Infinity)
})
