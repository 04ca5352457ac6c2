import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { gridDocument } from '../../core/testing/models'
import { ProblemError } from '../../core/problem'
import { FollowedError, GoneError, StaleError, UnavailableError } from '../api/send'
import { createStudyStore } from './study-store'

const record = (document: EnvironmentDocument) => ({
  id: 'x',
  revision: 1,
  updatedAt: '',
  document,
  base: null,
})
const floors = ['..', '.#', '##'].map((floor) => gridDocument([floor]))

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

function open(
  save = vi.fn(async (_: string, revision: number) => ({ revision: revision + 1, updatedAt: '' })),
) {
  return { store: createStudyStore(record(floors[0]), 'build', undefined, save), save }
}

/** What brings a variant up to date is loaded when it is wanted: on a busy machine that takes its time. */
const PATIENT = { timeout: 30_000 }

describe('history', () => {
  it('undoes and redoes, and forgets the future on a new edit', () => {
    const { store } = open()
    const at = () => store.getState().document
    store.getState().edit(floors[1])
    store.getState().edit(floors[2])
    store.getState().undo()
    expect(at()).toBe(floors[1])
    store.getState().undo()
    expect(at()).toBe(floors[0])
    store.getState().undo()
    expect(at()).toBe(floors[0])
    store.getState().redo()
    expect(at()).toBe(floors[1])
    store.getState().edit(floors[0])
    store.getState().redo()
    expect(at()).toBe(floors[0])
  })

  it('takes one stroke back at once', () => {
    const { store } = open()
    store.getState().edit(floors[1], 7)
    store.getState().edit(floors[2], 7)
    expect(store.getState().past).toHaveLength(1)
    store.getState().undo()
    expect(store.getState().document).toBe(floors[0])
  })
})

describe('saving', () => {
  it('loses nothing when the page goes away while a save is on its way', async () => {
    const { store, save } = open(vi.fn(() => new Promise<never>(() => {})))
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(5000)
    store.getState().edit(floors[2])
    store.getState().leave()
    // The second is made from the revision that the first one makes.
    expect(save.mock.calls).toEqual([
      ['x', 1, floors[1]],
      ['x', 2, floors[2]],
    ])
    store.getState().undo()
    store.getState().leave()
    // What is on its way already is not sent again.
    expect(save).toHaveBeenCalledTimes(2)
  })

  it('waits for quiet, saves the last document once, and names the revision', async () => {
    const { store, save } = open()
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(300)
    store.getState().edit(floors[2])
    expect(save).not.toHaveBeenCalled()
    await vi.advanceTimersByTimeAsync(600)
    expect(save.mock.calls).toEqual([['x', 1, floors[2]]])
    expect(store.getState().saving.state).toBe('saved')
    store.getState().undo()
    await vi.advanceTimersByTimeAsync(600)
    expect(save.mock.calls[1]).toEqual(['x', 2, floors[1]])
  })

  it('saves nothing when everything was undone', async () => {
    const { store, save } = open()
    store.getState().edit(floors[1])
    store.getState().undo()
    await vi.advanceTimersByTimeAsync(600)
    expect(save).not.toHaveBeenCalled()
    expect(store.getState().saving.state).toBe('saved')
  })

  it('tells of a failure and tries again', async () => {
    const problem = { place: 'server', cause: 'The server does not answer.', remedy: 'Try again.' }
    const save = vi
      .fn(async () => ({ revision: 2, updatedAt: '' }))
      .mockRejectedValueOnce(new ProblemError([problem]))
    const { store } = open(save)
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('does not answer'),
    })
    await store.getState().save()
    expect(store.getState().saving.state).toBe('saved')
    expect(save).toHaveBeenCalledTimes(2)
  })

  it('stops saving when somebody else saved', async () => {
    const problem = { place: 'environment', cause: 'Changed.', remedy: 'Reload.' }
    const save = vi.fn().mockRejectedValue(new StaleError([problem]))
    const { store } = open(save)
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving.state).toBe('stale')
    store.getState().edit(floors[2])
    await vi.advanceTimersByTimeAsync(2000)
    expect(save).toHaveBeenCalledTimes(1)
    expect(store.getState().document).toBe(floors[2])
  })

  it('tries again by itself, until the server can', async () => {
    const problem = { place: 'database', cause: 'The disk is full.', remedy: 'Make room.' }
    const save = vi
      .fn(async (_: string, revision: number) => ({ revision: revision + 1, updatedAt: '' }))
      .mockRejectedValueOnce(new UnavailableError([problem]))
      .mockRejectedValueOnce(new UnavailableError([problem]))
    const { store } = open(save)
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving).toMatchObject({ state: 'failed' })
    await vi.advanceTimersByTimeAsync(1600)
    expect(save).toHaveBeenCalledTimes(2)
    expect(store.getState().saving).toMatchObject({ state: 'failed' })
    await vi.advanceTimersByTimeAsync(1600)
    expect(store.getState().saving.state).toBe('saved')
    expect(save.mock.calls.at(-1)).toEqual(['x', 1, floors[1]])
    await vi.advanceTimersByTimeAsync(10_000)
    expect(save).toHaveBeenCalledTimes(3)
  })

  it('waits when it was deleted elsewhere, and goes on when it is back', async () => {
    const problem = { place: 'environment', cause: 'It is not on the shelf.', remedy: 'Go back.' }
    const save = vi
      .fn(async (_: string, revision: number) => ({ revision: revision + 1, updatedAt: '' }))
      .mockRejectedValueOnce(new GoneError([problem]))
    const { store } = open(save)
    store.getState().edit(floors[1])
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving.state).toBe('gone')
    store.getState().edit(floors[2])
    await vi.advanceTimersByTimeAsync(5000)
    expect(save).toHaveBeenCalledTimes(1)
    await store.getState().resume()
    expect(store.getState().saving.state).toBe('saved')
    expect(save.mock.calls.at(-1)).toEqual(['x', 1, floors[2]])
  })

  it('carries what was changed over to what its base became, the history too', async () => {
    const hall = (floor: string[], veer = 0) => ({ ...gridDocument(floor, { veer }), name: 'Variant' })
    const problem = { place: 'environment', cause: 'It followed its base.', remedy: 'Reload.' }
    const save = vi
      .fn(async (_: string, revision: number) => ({ revision: revision + 1, updatedAt: '' }))
      .mockRejectedValueOnce(new FollowedError([problem]))
      .mockRejectedValueOnce(new FollowedError([problem]))
    const base = { id: 'b', name: 'Base', document: hall(['...', '.#.']) }
    const gone = { place: 'server', cause: 'It does not answer.', remedy: 'Wait.' }
    // The server goes away between the two, and is asked again.
    const read = vi
      .fn(async () => ({ ...record(hall(['...', '.#.'])), revision: 5, base }))
      .mockRejectedValueOnce(new UnavailableError([gone]))
    const store = createStudyStore(record(hall(['...', '...'])), 'build', undefined, save, read)
    store.getState().edit(hall(['#..', '...']))
    store.getState().edit(hall(['#..', '...'], 0.2))
    await vi.advanceTimersByTimeAsync(700)
    await vi.waitFor(() => expect(store.getState().saving.state).toBe('failed'), PATIENT)
    await vi.advanceTimersByTimeAsync(1600)
    await vi.waitFor(() => expect(save).toHaveBeenCalledTimes(3), PATIENT)
    await vi.advanceTimersByTimeAsync(10)
    expect(save.mock.calls[2]).toEqual(['x', 5, hall(['#..', '.#.'], 0.2)])
    expect(store.getState().saving.state).toBe('saved')
    expect(store.getState().base).toBe(base)
    store.getState().undo()
    expect(store.getState().document).toEqual(hall(['#..', '.#.']))
    store.getState().undo()
    expect(store.getState().document).toEqual(hall(['...', '.#.']))
  })
})
