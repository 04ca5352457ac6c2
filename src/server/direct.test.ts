import { createServer, type Server } from 'node:http'
import { mkdtempSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { newExercise } from '../core/exercise/new-exercise'
import { gridDocument } from '../core/testing/models'
import { CALLER_HEADER, callerText, type Caller } from './access/caller'
import { announce } from './class-events'
import { database } from './db/database'
import { answerDirectly } from './direct'
import { handOut } from './repositories/assignments'
import { createClass, enterClass, getClass } from './repositories/classes'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-direct-'))
let server: Server
let at: string
let caller: Caller
let classId: string
let exercise: string

beforeAll(async () => {
  process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')
  const db = await database()
  classId = await createClass(db, 'Autumn')
  const hall = { ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }), name: 'Hall' }
  const terms = { tries: null, closesAt: null, madeUpNames: false }
  exercise = await handOut(db, classId, JSON.stringify(newExercise(hall, 7)), terms)
  const id = (await enterClass(db, (await getClass(db, classId))!.code!, 'Ada'))!
  caller = { roles: ['anyone', 'student', 'program'], student: { id, classId } }
  server = createServer((request, response) => {
    request.headers[CALLER_HEADER] = callerText(caller)
    void answerDirectly(request, response).then((answered) => {
      if (!answered) response.writeHead(418).end('elsewhere')
    })
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => {
  server.closeAllConnections()
  server.close()
  rmSync(folder, { recursive: true, force: true })
})

it('answers its own routes, and leaves all else to the application', async () => {
  expect((await fetch(`${at}/api/play`)).status).toBe(200)
  expect(await (await fetch(`${at}/api/play/sessions?x=1`)).json()).toEqual([])
  for (const path of [
    '/',
    '/api/classes',
    '/api/joined',
    '/api/playing',
    '/api/play/nothing',
    '/api/play/sessions/a/b',
  ])
    expect([path, (await fetch(at + path)).status]).toEqual([path, 418])
})

it('says which methods a route has', async () => {
  const answer = await fetch(`${at}/api/play/sessions`, { method: 'DELETE' })
  expect(answer.status).toBe(405)
  expect(await answer.text()).toContain('Use GET or POST.')
})

it('reads long bodies part by part, and answers HEAD without a body', async () => {
  const sent = (body: string) =>
    fetch(`${at}/api/class/exercises/${exercise}/hand-ins`, { method: 'POST', body })
  expect((await sent('x'.repeat(300_000))).status).toBe(201)
  const head = await fetch(`${at}/api/class`, { method: 'HEAD' })
  expect([head.status, await head.text()]).toEqual([200, ''])
})

it('refuses what is no JSON, too large or not complete, with its place', async () => {
  const sent = async (body: string) => {
    const answer = await fetch(`${at}/api/play/sessions`, { method: 'POST', body })
    return [answer.status, ((await answer.json()) as { problems: { place: string }[] }).problems[0].place]
  }
  expect((await sent('{'))[0]).toBe(400)
  expect(await sent('{}')).toEqual([400, 'exercise'])
  expect(await sent('{"exercise":"x","episodes":5000}')).toEqual([400, 'episodes'])
  expect(await sent(JSON.stringify({ exercise: 'x'.repeat(40_000) }))).toEqual([400, 'request'])
  expect((await sent('{"exercise":"x"}'))[0]).toBe(404)
})

it('sends what goes on as it comes, and stops for those who have gone', async () => {
  const gone = new AbortController()
  const answer = await fetch(`${at}/api/class/events`, { signal: gone.signal })
  expect(answer.headers.get('content-type')).toBe('text/event-stream')
  const reader = answer.body!.getReader()
  const next = async () => new TextDecoder().decode((await reader.read()).value)
  const first = await next()
  expect(first).toMatch(/^id: \d+\ndata: \{"version":/)
  await announce(classId)
  expect(Number(/^id: (\d+)/.exec(await next())![1])).toBeGreaterThan(Number(/^id: (\d+)/.exec(first)![1]))
  const streams = (globalThis as { jauntyPawnStreams?: Map<string, number> }).jauntyPawnStreams!
  expect(streams.get(caller.student!.id)).toBe(1)
  gone.abort()
  await expect.poll(() => streams.has(caller.student!.id)).toBe(false)
})
