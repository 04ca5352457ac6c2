import { expect, it } from 'vitest'
import { gaussian } from './gaussian'
import { RandomStream } from './generator'
import { normalBelow } from './normal'

it('falls as the normal distribution says, in every tenth and in the tails', () => {
  const stream = new RandomStream(5, 'method')
  const count = 200_000
  const parts = new Array<number>(20).fill(0)
  let sum = 0
  let squares = 0
  for (let i = 0; i < count; i++) {
    const x = gaussian(stream)
    parts[Math.min(19, Math.floor(normalBelow(x) * 20))]++
    sum += x
    squares += x * x
  }
  // Five standard errors of a count, of a mean and of a variance.
  for (const part of parts)
    expect(Math.abs(part - count / 20)).toBeLessThan(5 * Math.sqrt(count * 0.05 * 0.95))
  expect(Math.abs(sum / count)).toBeLessThan(5 / Math.sqrt(count))
  expect(Math.abs(squares / count - 1)).toBeLessThan(5 * Math.sqrt(2 / count))
})

it('is the same for the same seed, and goes on from a copied stream', () => {
  const draw = (stream: RandomStream) => Array.from({ length: 5 }, () => gaussian(stream))
  expect(draw(new RandomStream(1, 'method'))).toEqual(draw(new RandomStream(1, 'method')))
  const stream = new RandomStream(1, 'method')
  draw(stream)
  const words = stream.words.slice()
  const on = draw(stream)
  stream.words.set(words)
  expect(draw(stream)).toEqual(on)
})
