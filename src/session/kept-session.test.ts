import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newLesson, type Lesson } from '../core/lesson/lesson-document'
import { StaleError, UnavailableError } from './api/send'
import { createKeptSession } from './kept-session'

const problem = (cause: string) => [{ place: 'lesson', cause, remedy: '' }]

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

function open(write: (id: string, revision: number, lesson: Lesson) => Promise<number>) {
  const create = (lesson: Lesson) => {
    created.push(lesson)
    return Promise.resolve({ id: 'copy' })
  }
  return createKeptSession({ id: 'l', revision: 1, value: newLesson('A') }, { write, create })
}
const created: Lesson[] = []
const named = (name: string) => newLesson(name)

describe('a lesson that is open', () => {
  it('is saved after a rest, one revision after the other', async () => {
    const written: [number, string][] = []
    const { edit, store } = open(async (_, revision, { name }) => {
      written.push([revision, name])
      return revision + 1
    })
    edit(named('B'))
    edit(named('C'))
    expect(store.getState().saving).toBe('waiting')
    await vi.advanceTimersByTimeAsync(600)
    expect(written).toEqual([[1, 'C']])
    edit(named('D'))
    await vi.advanceTimersByTimeAsync(600)
    expect(written[1]).toEqual([2, 'D'])
    expect(store.getState().saving).toBe('saved')
  })

  it('undoes strokes of one kind together, and saves what was undone', async () => {
    const { edit, undo, redo, store } = open(async (_, revision) => revision + 1)
    const name = () => store.getState().value.name
    edit(named('B'), 'title')
    edit(named('BC'), 'title')
    edit(named('D'))
    undo()
    expect(name()).toBe('BC')
    undo()
    expect(name()).toBe('A')
    undo()
    expect(name()).toBe('A')
    redo()
    redo()
    redo()
    expect(name()).toBe('D')
    // What comes after an undo is a stroke of its own.
    undo()
    edit(named('E'), 'title')
    edit(named('F'), 'title')
    undo()
    expect(name()).toBe('BC')
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving).toBe('saved')
  })

  it('waits for somebody where it was changed elsewhere, and tries again where the server was away', async () => {
    let answer: () => Promise<number> = () => Promise.reject(new UnavailableError(problem('Away.')))
    const { edit, store, keepCopy } = open(() => answer())
    edit(named('B'))
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState()).toMatchObject({ saving: 'failed' })
    answer = () => Promise.resolve(2)
    await vi.advanceTimersByTimeAsync(2000)
    expect(store.getState()).toMatchObject({ saving: 'saved', problem: null })
    answer = () => Promise.reject(new StaleError(problem('Changed elsewhere.')))
    edit(named('C'))
    await vi.advanceTimersByTimeAsync(600)
    expect(store.getState().saving).toBe('stale')
    expect(store.getState().problem).toContain('Changed elsewhere.')
    answer = () => Promise.resolve(3)
    edit(named('D'))
    await vi.advanceTimersByTimeAsync(5000)
    expect(store.getState().saving).toBe('stale')
    // What was written here is not lost.
    expect(await keepCopy()).toBe('copy')
    expect(created).toEqual([named('D (mine)')])
    expect(store.getState()).toMatchObject({ saving: 'saved', problem: null })
  })
})
