import { describe, expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { chiSquareTail, gTest, logGamma } from './chi-square'

it('ln Γ is that of factorials, and of a half', () => {
  let factorial = 1
  for (let n = 1; n <= 20; n++) {
    expect(logGamma(n)).toBeCloseTo(Math.log(factorial), 10)
    factorial *= n
  }
  expect(logGamma(0.5)).toBeCloseTo(0.5 * Math.log(Math.PI), 12)
})

describe('the tail of chi-square', () => {
  it('is exp(-x / 2) with two degrees of freedom, and a finite sum with an even number', () => {
    for (const x of [0.1, 1, 3, 10, 40, 100]) {
      expect(chiSquareTail(x, 2)).toBeCloseTo(Math.exp(-x / 2), 13)
      let [sum, term] = [0, 1]
      for (let n = 0; n < 5; n++) {
        sum += term
        term *= x / 2 / (n + 1)
      }
      expect(chiSquareTail(x, 10) / (Math.exp(-x / 2) * sum)).toBeCloseTo(1, 10)
    }
  })

  it('has the values of the tables', () => {
    expect(chiSquareTail(3.841458820694124, 1)).toBeCloseTo(0.05, 10)
    expect(chiSquareTail(11.070497693516351, 5)).toBeCloseTo(0.05, 10)
    expect(chiSquareTail(135.80672317102676, 100)).toBeCloseTo(0.01, 9)
    expect(chiSquareTail(0, 3)).toBe(1)
  })
})

describe('the G test', () => {
  it('puts rare outcomes together, and says nothing where all is rare', () => {
    expect(gTest([3, 2], [0.5, 0.5])).toBeNull()
    expect(gTest([20, 20, 0], [0.5, 0.499, 0.001])).not.toBeNull()
    // By hand: 2 (60 ln (60 / 50) + 40 ln (40 / 50)) = 4.0271.
    expect(gTest([60, 40], [0.5, 0.5])).toBeCloseTo(chiSquareTail(4.027, 1), 4)
  })

  it('is wrong about as often as it says', () => {
    const chances = [0.5, 0.3, 0.15, 0.05]
    let small = 0
    for (let seed = 0; seed < 2000; seed++) {
      const stream = new RandomStream(seed, 'environment')
      const counts = chances.map(() => 0)
      for (let i = 0; i < 300; i++) {
        let left = stream.uniform()
        let k = 0
        while (k < 3 && left >= chances[k]) left -= chances[k++]
        counts[k]++
      }
      if (gTest(counts, chances)! < 0.05) small++
    }
    // 100 expected, standard deviation 9.7.
    expect(small).toBeGreaterThan(60)
    expect(small).toBeLessThan(140)
  })
})
