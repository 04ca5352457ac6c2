import { expect, it } from 'vitest'
import { RandomStream } from '../../random/generator'
import { StateIndex } from './state-index'

it.each([
  ['in a list', 1_000_000],
  ['hashed', 1e9],
])('numbers codes in the order in which they come, %s', (_, codes) => {
  const index = new StateIndex(codes)
  const known = new Map<number, number>()
  const stream = new RandomStream(1, 'environment')
  for (let i = 0; i < 50_000; i++) {
    const code = Math.floor(stream.uniform() * 30_000) * Math.floor(codes / 30_000)
    if (!known.has(code)) known.set(code, known.size)
    expect(index.add(code)).toBe(known.get(code))
  }
  expect(index.count).toBe(known.size)
  expect([...index.codes.subarray(0, index.count)]).toEqual([...known.keys()])
})
