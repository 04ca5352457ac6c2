import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { ProblemError } from '../../core/problem'
import { answer } from './answers'
import { fromOwner } from '../testing/callers'

const shared = globalThis as { jauntyPawnLog?: unknown }
const log = { error: vi.fn(), warn: vi.fn() }
beforeEach(() => void (shared.jauntyPawnLog = log))
afterEach(() => {
  delete shared.jauntyPawnLog
  vi.clearAllMocks()
})

const request = fromOwner('http://localhost/api/things?secret=1', {
  method: 'PUT',
  headers: { 'x-request-id': 'r7' },
})
const failing = async (error: unknown) => {
  const response = await answer(request, () => Promise.reject(error))
  return { status: response.status, problems: (await response.json()).problems }
}
const about = { request: 'r7', method: 'PUT', path: '/api/things' }

it('what a person did wrong is told to that person, and not logged', async () => {
  const problem = { place: 'line 7', cause: 'It is NaN.', remedy: 'Write a number.' }
  expect(await failing(new ProblemError([problem]))).toEqual({ status: 400, problems: [problem] })
  expect([...log.error.mock.calls, ...log.warn.mock.calls]).toEqual([])
})

it('a database that cannot be used is told in words, and logged without a stack', async () => {
  const full = Object.assign(
    new Error('Failed query', { cause: Object.assign(new Error(), { code: 'SQLITE_FULL' }) }),
  )
  const { status, problems } = await failing(full)
  expect([status, problems[0].cause]).toEqual([503, 'The disk is full.'])
  expect(log.warn.mock.calls).toEqual([[{ ...about, code: 'SQLITE_FULL' }, 'The disk is full.']])
  expect(log.error).not.toHaveBeenCalled()
})

it('a fault of the program is logged with what it was, which nobody else is told', async () => {
  const error = new Error('secret of the program')
  const { status, problems } = await failing(error)
  expect(status).toBe(500)
  expect(JSON.stringify(problems)).not.toContain('secret')
  expect(log.error.mock.calls).toEqual([[{ ...about, err: error }, 'A fault of the program']])
})

it('each answer says that it must not be kept', async () => {
  const response = await answer(request, () =>
    Promise.reject(new ProblemError([{ place: 'x', cause: 'y', remedy: 'z' }])),
  )
  expect(response.headers.get('cache-control')).toBe('no-store')
})
