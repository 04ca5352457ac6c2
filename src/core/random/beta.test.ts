import { expect, it } from 'vitest'
import { beta, gamma } from './beta'
import { RandomStream } from './generator'

const COUNT = 60_000
const moments = (draw: (stream: RandomStream) => number) => {
  const stream = new RandomStream(3, 'method')
  const drawn = Array.from({ length: COUNT }, () => draw(stream))
  const mean = drawn.reduce((sum, x) => sum + x, 0) / COUNT
  return { drawn, mean, variance: drawn.reduce((sum, x) => sum + (x - mean) ** 2, 0) / COUNT }
}

it.each([0.3, 1, 2.5, 40])('gamma of shape %s has that mean and that variance', (shape) => {
  const { mean, variance } = moments((stream) => gamma(stream, shape))
  expect(Math.abs(mean - shape)).toBeLessThan(5 * Math.sqrt(shape / COUNT))
  // The fourth moment around the mean is 3 shape² + 6 shape.
  expect(Math.abs(variance - shape)).toBeLessThan(5 * Math.sqrt((2 * shape * shape + 6 * shape) / COUNT))
})

it.each([
  [1, 1],
  [3, 7],
  [0.5, 0.5],
  [200, 50],
])('beta(%s, %s) has the mean and the variance of the formula', (a, b) => {
  const { drawn, mean, variance } = moments((stream) => beta(stream, a, b))
  const exact = (a * b) / ((a + b) ** 2 * (a + b + 1))
  expect(Math.abs(mean - a / (a + b))).toBeLessThan(5 * Math.sqrt(exact / COUNT))
  expect(Math.abs(variance / exact - 1)).toBeLessThan(0.05)
  for (const x of drawn) expect(x >= 0 && x <= 1).toBe(true)
})

it('beta(1, 1) is uniform', () => {
  const { drawn } = moments((stream) => beta(stream, 1, 1))
  for (let k = 0; k < 10; k++) {
    const share = drawn.filter((x) => Math.floor(x * 10) === k).length / COUNT
    expect(Math.abs(share - 0.1)).toBeLessThan(5 * Math.sqrt(0.09 / COUNT))
  }
})
