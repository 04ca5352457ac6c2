import fc from 'fast-check'
import { expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { GreedyTable } from './greedy-table'

const START = Int32Array.of(0, 3, 3, 7, 8)

it('always knows what a scan from scratch finds', () => {
  const write = fc.record({ row: fc.nat(7), value: fc.constantFrom(-2, -1, 0, 0, 1, 2, 0.5) })
  fc.assert(
    fc.property(fc.array(write, { maxLength: 60 }), fc.constantFrom(0, -1, 3), (writes, initial) => {
      const table = new GreedyTable(START, initial)
      for (const { row, value } of writes) {
        const group = START.findIndex((_, g) => START[g + 1] > row)
        table.set(group, row, value)
        for (const g of [0, 2, 3]) {
          const values = table.values.subarray(START[g], START[g + 1])
          const best = Math.max(...values)
          expect(table.best[g]).toBe(best)
          expect(table.first[g]).toBe(START[g] + values.indexOf(best))
          expect(table.count[g]).toBe(values.filter((each) => each === best).length)
        }
      }
      expect(table.best[1]).toBe(0)
    }),
    { numRuns: 500 },
  )
})

it('breaks ties evenly', () => {
  const table = new GreedyTable(START)
  table.set(2, 4, -1)
  const stream = new RandomStream(3, 'ties')
  const counts = new Map<number, number>()
  for (let i = 0; i < 9000; i++) {
    const row = table.greedy(2, stream)
    counts.set(row, (counts.get(row) ?? 0) + 1)
  }
  expect([...counts.keys()].sort()).toEqual([3, 5, 6])
  for (const count of counts.values()) expect(Math.abs(count - 3000)).toBeLessThan(200)
})
