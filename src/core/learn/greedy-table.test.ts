import { expect, it } from 'vitest'
import { GreedyTable } from './greedy-table'

it('begins with every row of a group a best one, and 0 for a group without rows', () => {
  const table = new GreedyTable(Int32Array.of(0, 3, 3, 7), -1)
  expect([...table.best]).toEqual([-1, 0, -1])
  expect([...table.first]).toEqual([0, 0, 3])
  expect([...table.count]).toEqual([3, 0, 4])
})

it('finds maximum, first row and count again', () => {
  const table = new GreedyTable(Int32Array.of(0, 3, 3, 7))
  table.values.set([2, 5, 5, -1, -3, -1, -2])
  for (const group of [0, 1, 2]) table.refresh(group)
  expect([...table.best]).toEqual([5, 0, -1])
  expect([...table.first]).toEqual([1, 0, 3])
  expect([...table.count]).toEqual([2, 0, 2])
})
