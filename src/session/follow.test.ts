import { expect, it } from 'vitest'
import { createStore } from 'zustand'
import { follow } from './follow'

it('runs at once and at every change of what it reads, and undoes the run before', () => {
  const one = createStore<{ a: number; b: number }>()(() => ({ a: 1, b: 1 }))
  const other = createStore<{ c: number }>()(() => ({ c: 1 }))
  const said: string[] = []
  const stop = follow(
    [one, other],
    () => [one.getState().a, other.getState().c] as const,
    (a, c) => {
      said.push(`run ${a} ${c}`)
      return () => void said.push(`undo ${a} ${c}`)
    },
  )
  one.setState({ b: 2 })
  expect(said).toEqual(['run 1 1'])
  one.setState({ a: 2 })
  other.setState({ c: 5 })
  expect(said).toEqual(['run 1 1', 'undo 1 1', 'run 2 1', 'undo 2 1', 'run 2 5'])
  stop()
  one.setState({ a: 3 })
  expect(said.slice(5)).toEqual(['undo 2 5'])
})

it('settles when a run changes what it depends on', () => {
  const store = createStore<{ a: number }>()(() => ({ a: 0 }))
  const undone: number[] = []
  const stop = follow(
    [store],
    () => [store.getState().a] as const,
    (a) => {
      if (a < 3) store.setState({ a: a + 1 })
      return () => void undone.push(a)
    },
  )
  expect(store.getState().a).toBe(3)
  // Each run is undone once: those that were overtaken as soon as they returned, the last one in the end.
  expect(undone).toEqual([2, 1, 0])
  stop()
  expect(undone).toEqual([2, 1, 0, 3])
})
