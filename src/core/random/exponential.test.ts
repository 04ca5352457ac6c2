import { expect, it } from 'vitest'
import { exponential } from './exponential'

it('agrees with the series of e^x summed in rational arithmetic', () => {
  // e^(p/8) as a sum of 60 terms in integers scaled by 2^200.
  for (const p of [-40, -7, -1, 1, 3, 8, 33]) {
    const one = 1n << 200n
    let term = one
    let sum = one
    for (let n = 1n; n < 120n; n++) {
      term = (term * BigInt(p)) / (8n * n)
      sum += term
    }
    const expected = Number((sum << 60n) >> 200n) / 2 ** 60
    expect(Math.abs(exponential(p / 8) - expected)).toBeLessThanOrEqual(expected * 4e-16)
  }
})

it('holds to the ends of its range', () => {
  expect(exponential(0)).toBe(1)
  expect(exponential(-1e9)).toBe(0)
  expect(exponential(1e9)).toBe(Infinity)
  expect(exponential(NaN)).toBeNaN()
  for (let x = -700; x <= 700; x += 0.37) expect(exponential(x) / Math.exp(x)).toBeCloseTo(1, 14)
})
