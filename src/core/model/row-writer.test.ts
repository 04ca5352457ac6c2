import { expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { ModelBuilder } from './builder'
import { RowWriter } from './row-writer'

it.each([
  ['nothing but the discount counts', (_s: number, _o: number) => 1],
  [
    'discounts come late, in some rows',
    (s: number, o: number) => (s > 2500 && s % 3 === 0 ? 1 / (2 + (o % 4)) : 1),
  ],
])(
  'writes what the builder builds, over many chunks, with equal outcomes added up, where %s',
  (_, discountOf) => {
    const stream = new RandomStream(3, 'environment')
    const builder = new ModelBuilder()
    const writer = new RowWriter()
    const STATES = 3000
    for (let s = 0; s < STATES; s++) builder.newState(`s${s}`)
    const action = builder.action('go')
    for (let s = 0; s < STATES; s++) {
      writer.beginState()
      for (let a = 0; s < STATES - 1 && a < 2; a++) {
        const row = builder.newRow(s, action)
        writer.beginRow(action)
        const many = s === 7 ? 5000 : 130
        for (let o = 0; o < many; o++) {
          const [next, reward] = [stream.below(STATES), stream.below(5)]
          builder.outcome(row, next, 1 / many, reward, discountOf(s, o))
          writer.outcome(next, 1 / many, reward, discountOf(s, o))
        }
      }
    }
    const built = builder.build({ starts: [{ state: 0, weight: 1 }], cap: 0 })
    const written = writer.finish()
    expect(written.outcomeState.length).toBeGreaterThan(2 * 262_144)
    expect(written.outcomeDiscount === null).toBe(discountOf(2502, 0) === 1)
    for (const [name, array] of Object.entries(written)) {
      const other = built[name as keyof typeof written]
      if (!array || !other) {
        expect([name, array, other]).toEqual(['outcomeDiscount', null, null])
        continue
      }
      expect(array.length).toBe(other.length)
      expect(array.findIndex((x, i) => x !== other[i])).toBe(-1)
    }
  },
)

it('drops what cannot happen', () => {
  const writer = new RowWriter()
  writer.beginState()
  writer.beginRow(0)
  writer.outcome(0, 0, 5)
  writer.outcome(0, 1, 2)
  expect([...writer.finish().outcomeReward]).toEqual([2])
})
