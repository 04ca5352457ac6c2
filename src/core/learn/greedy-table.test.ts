import { expect, it } from 'vitest'
import { RandomStream } from '../random/generator'
import { GreedyTable } from './greedy-table'

it('begins with every row of a observation a best one, and 0 for a observation without rows', () => {
  const table = new GreedyTable(Int32Array.of(0, 3, 3, 7))
  expect([0, 1, 2].map((o) => table.best(o))).toEqual([0, 0, 0])
  expect([0, 1, 2].map((o) => table.first(o))).toEqual([0, 0, 3])
  expect([0, 1, 2].map((o) => table.count(o))).toEqual([3, 0, 4])
})

it('finds maximum, first row and count again', () => {
  const table = new GreedyTable(Int32Array.of(0, 3, 3, 7))
  table.values.set([2, 5, 5, -1, -3, -1, -2])
  for (const observation of [0, 1, 2]) table.refresh(observation)
  expect([0, 1, 2].map((o) => table.best(o))).toEqual([5, 0, -1])
  expect([0, 1, 2].map((o) => table.first(o))).toEqual([1, 0, 3])
  expect([0, 1, 2].map((o) => table.count(o))).toEqual([2, 0, 2])
})

it('keeps all three up while values are written, as a scan would find them', () => {
  const start = Int32Array.of(0, 1, 5, 5, 8)
  const table = new GreedyTable(start)
  const stream = new RandomStream(3, 'environment')
  for (let i = 0; i < 3000; i++) {
    const observation = [0, 1, 3][stream.below(3)]
    table.write(
      observation,
      start[observation] + stream.below(start[observation + 1] - start[observation]),
      stream.below(4) - 2,
    )
    const rows = [...table.values.subarray(start[observation], start[observation + 1])]
    const most = Math.max(...rows)
    expect(table.best(observation)).toBe(most)
    expect(table.first(observation)).toBe(start[observation] + rows.indexOf(most))
    expect(table.count(observation)).toBe(rows.filter((value) => value === most).length)
    expect(table.pick(observation, null)).toBe(table.first(observation))
    expect(table.values[table.pick(observation, stream)]).toBe(most)
  }
})

it('picks among equals equally often', () => {
  const table = new GreedyTable(Int32Array.of(0, 5))
  for (const row of [1, 3, 4]) table.write(0, row, 2)
  const ties = new RandomStream(1, 'ties')
  const counts = [0, 0, 0, 0, 0]
  for (let i = 0; i < 9000; i++) counts[table.pick(0, ties)]++
  expect(counts[0] + counts[2]).toBe(0)
  // Binomial with 9,000 draws of 1/3: standard deviation 45; five of them.
  for (const row of [1, 3, 4]) expect(Math.abs(counts[row] - 3000)).toBeLessThan(225)
})
