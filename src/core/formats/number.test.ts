import { expect, it } from 'vitest'
import { fixedNumber, formatCount, formatNumber, signedNumber, significantNumber } from './number'

it('writes numbers for people', () => {
  expect(formatNumber(1.5)).toBe('1.5')
  expect(formatNumber(-1.005e-3, 3)).toBe('−0.001')
  expect(formatNumber(100)).toBe('100')
  expect(formatNumber(12345678)).toBe('1.2e7')
  expect(formatNumber(-0.00004)).toBe('−4e−5')
  expect(formatNumber(0.005)).toBe('0.01')
  expect(formatNumber(NaN)).toBe('–')
  expect(formatNumber(-Infinity)).toBe('−∞')
  expect(fixedNumber(-0.001)).toBe('0.00')
  expect(fixedNumber(-3.14159, 3)).toBe('−3.142')
  expect(significantNumber(858.724757)).toBe('859')
  expect(significantNumber(0.00123456)).toBe('0.00123')
  expect(significantNumber(8.41e-10)).toBe('8.4e−10')
  expect(signedNumber(10)).toBe('+10')
  expect(signedNumber(-1)).toBe('−1')
  expect(formatCount(1234567)).toBe('1\u202f234\u202f567')
})
