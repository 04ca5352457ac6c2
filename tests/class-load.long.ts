import { readFileSync } from 'node:fs'
import { Agent, request as ask, type IncomingMessage } from 'node:http'
import { connect } from 'node:net'
import { expect, test } from '@playwright/test'
import type { ClassRecord, ExerciseSummary, StudentExercise } from '../src/server/contract/classes'
import { Servers } from './servers'

// A whole class at work, and one of it who means harm: `LONG=1 npx playwright test class-load`. How fast it is, is printed;
// what is tested is that nothing fails and nothing is reached.
const STUDENTS = Number(process.env.STUDENTS ?? 200)
const SECONDS = Number(process.env.SECONDS ?? 60)
/** The time within which all of them enter, in seconds. */
const ENTERING = 20

test.describe.configure({ timeout: 400_000, mode: 'serial' })

const PORT = 3251
const PHRASE = 'lamp over the stairs'
const servers = new Servers()
const agent = new Agent({ keepAlive: true, maxSockets: 400 })
let pid = 0
let owner = ''

test.beforeAll(async () => {
  const child = await servers.server(PORT, 'load.sqlite', { JAUNTY_PAWN_PASSPHRASE: PHRASE })
  pid = child.pid!
  owner = (await call('POST', '/api/enter', { body: { phrase: PHRASE } })).cookie
})
test.afterAll(() => {
  agent.destroy()
  servers.close()
})

interface Called {
  readonly status: number
  readonly text: string
  readonly cookie: string
  readonly ms: number
}

/** A request, with how long its answer took. */
function call(
  method: string,
  path: string,
  { body, cookie, headers = {} }: { body?: unknown; cookie?: string; headers?: Record<string, string> } = {},
): Promise<Called> {
  const began = performance.now()
  const text = body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body)
  return new Promise((resolve, reject) => {
    const sent = ask(
      {
        ...{ host: '127.0.0.1', port: PORT, method, path, agent },
        headers: {
          host: `localhost:${PORT}`,
          ...(text === undefined ? {} : { 'content-type': 'application/json' }),
          ...(cookie ? { cookie } : {}),
          ...headers,
        },
      },
      (answer: IncomingMessage) => {
        let said = ''
        answer.setEncoding('utf8')
        answer.on('data', (part: string) => (said += part))
        answer.on('end', () =>
          resolve({
            status: answer.statusCode!,
            text: said,
            cookie: String(answer.headers['set-cookie'] ?? '').split(';')[0],
            ms: performance.now() - began,
          }),
        )
        answer.on('error', reject)
      },
    )
    sent.once('error', reject)
    sent.end(text)
  })
}

async function asOwner<T>(method: string, path: string, body?: unknown): Promise<T> {
  const { status, text } = await call(method, path, { body, cookie: owner })
  expect(status, text).toBeLessThan(300)
  return (text ? JSON.parse(text) : undefined) as T
}

async function openClass(name: string): Promise<ClassRecord> {
  const { id } = await asOwner<{ id: string }>('POST', '/api/classes', { name })
  for (const { id: exercise } of await asOwner<ExerciseSummary[]>('GET', '/api/exercises'))
    await asOwner('POST', `/api/classes/${id}/assignments`, {
      ...{ exercise, tries: null, closesAt: null, madeUpNames: true },
    })
  return asOwner('GET', `/api/classes/${id}`)
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const quantile = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]

/** Answers of a class, as they come. */
class Watch {
  /** How long they took, by what was asked for, in milliseconds. */
  readonly times = new Map<string, number[]>()
  readonly failures: string[] = []

  async see(
    what: string,
    called: Promise<Called>,
    fine: (status: number) => boolean = (s) => s < 300,
  ): Promise<Called> {
    const answer = await called
    if (!this.times.has(what)) this.times.set(what, [])
    this.times.get(what)!.push(answer.ms)
    if (!fine(answer.status)) this.failures.push(`${what}: ${answer.status} ${answer.text.slice(0, 200)}`)
    return answer
  }

  words(): string {
    const line = (what: string, times: readonly number[]) => {
      const sorted = [...times].sort((x, y) => x - y)
      const ms = (share: number) => Math.round(quantile(sorted, share))
      return `${what}: ${sorted.length} answers, p50 ${ms(0.5)} ms, p99 ${ms(0.99)} ms, longest ${ms(1)} ms`
    }
    const each = [...this.times].map(([what, times]) => `  ${line(what, times)}`)
    return [line('all', [...this.times.values()].flat()), ...each].join('\n')
  }
}

/** A student at work until the time is over: opens pages, answers, hands in, follows. */
async function study(room: ClassRecord, watch: Watch, until: number, question: string): Promise<void> {
  await pause(Math.random() * ENTERING * 1000)
  const entered = await watch.see('enter', call('POST', '/api/join', { body: { code: room.code, name: '' } }))
  const { cookie } = entered
  const lamp = room.assignments.find(({ name }) => name === 'The way of the lamp robot')!
  await watch.see('home', call('GET', '/class', { cookie }))
  const opened = await watch.see('exercise', call('GET', `/api/class/exercises/${lamp.id}`, { cookie }))
  const { seen } = JSON.parse(opened.text) as StudentExercise
  const policy = Object.fromEntries(
    seen!.states.flatMap(({ states, actions }) =>
      states.map((state) => [state, actions[Math.floor(Math.random() * actions.length)]]),
    ),
  )
  const stream = ask({
    ...{ host: '127.0.0.1', port: PORT, path: '/api/class/events' },
    headers: { host: `localhost:${PORT}`, cookie },
  })
  stream.on('error', () => {})
  stream.on('response', (answer) => answer.on('data', () => {}).on('error', () => {}))
  stream.end()
  await watch.see(
    'hand in',
    call('POST', `/api/class/exercises/${lamp.id}/hand-ins`, { body: { policy }, cookie }),
  )
  while (performance.now() < until) {
    await pause(1_000 + Math.random() * 3_000)
    const what = Math.random()
    if (what < 0.3) await watch.see('exercise', call('GET', `/api/class/exercises/${lamp.id}`, { cookie }))
    else if (what < 0.5) await watch.see('home', call('GET', '/class', { cookie }))
    else if (what < 0.7)
      await watch.see('standings', call('GET', `/api/class/exercises/${lamp.id}/standings`, { cookie }))
    else
      await watch.see(
        'answer',
        call('PUT', `/api/class/questions/${question}`, { body: { value: what }, cookie }),
      )
  }
  stream.destroy()
}

async function ask1(room: ClassRecord): Promise<string> {
  const question = { kind: 'number', text: 'How far?' }
  return (
    await asOwner<{ id: string }>('POST', `/api/classes/${room.id}/questions`, { question, truth: null })
  ).id
}

/** What the server holds in memory, in MB. */
const memory = () =>
  Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024)

test('a class at work gets an answer to everything', async () => {
  const room = await openClass('At work')
  const watch = new Watch()
  const question = await ask1(room)
  const until = performance.now() + SECONDS * 1000
  await Promise.all(Array.from({ length: STUDENTS }, () => study(room, watch, until, question)))
  console.log(`${STUDENTS} students, ${SECONDS} s: ${memory()} MB; ${watch.words()}`)
  expect(watch.failures).toEqual([])
})

test('one who means harm reaches nothing, and the others go on', async () => {
  const [room, other] = [await openClass('Theirs'), await openClass('Another')]
  const question = await ask1(room)
  const victim = await call('POST', '/api/join', { body: { code: room.code, name: 'Ada' } })
  const lamp = room.assignments[0]
  const harm = (
    await call('POST', '/api/join', { body: { code: other.code, name: '<script>alert(1)</script>' } })
  ).cookie
  const watch = new Watch()
  const until = performance.now() + SECONDS * 1000
  const work = Promise.all(
    Array.from({ length: Math.ceil(STUDENTS / 2) }, () => study(room, watch, until, question)),
  )
  const statuses = new Map<number, number>()
  const count = ({ status }: { status: number }) => statuses.set(status, (statuses.get(status) ?? 0) + 1)

  // What belongs to another class, to nobody, or is not there.
  for (const path of [
    `/api/class/exercises/${lamp.id}`,
    `/api/class/exercises/${lamp.id}/standings`,
    `/api/class/exercises/${lamp.id}/picture`,
    `/api/classes/${room.id}`,
    `/api/classes/${room.id}/assignments/${lamp.id}/hand-ins`,
    '/api/exercises',
    '/api/environments',
    '/api/shelf',
    '/api/class/exercises/..%2f..%2f..%2fenvironments',
    '/api/class/following/../../environments',
    `/class/exercise/${lamp.id}`,
  ]) {
    const answer = await call('GET', path, { cookie: harm })
    expect([path, answer.status]).toEqual([path, path.startsWith('/api/') ? 404 : expect.any(Number)])
    expect(answer.text).not.toContain('lamp robot')
  }
  const put = await call('PUT', `/api/class/questions/${question}`, { body: { value: 1 }, cookie: harm })
  expect(put.status).toBe(404)

  // Bodies that are too large, too deep, or no JSON; rules that are no rules or take for ever.
  const mine = other.assignments.find(({ name }) => name === 'Open the vault')!
  const hand = `/api/class/exercises/${mine.id}/hand-ins`
  const bodies = [
    '['.repeat(200_000),
    '{"a":'.repeat(100_000),
    'x'.repeat(6_000_000),
    '{"policy": {"__proto__": {"polluted": "yes"}}}',
    `policy "mine": ${'('.repeat(2_000)}1${')'.repeat(2_000)}`,
    `policy "mine": press when count([n for n from 1 to 1000000000]) > 3, left`,
    '=HYPERLINK("http://x")',
  ]
  for (const body of bodies) {
    // What is too large is not read to its end: the connection may be closed before the answer is read.
    const { status } = await call('POST', hand, { body, cookie: harm }).catch(() => ({ status: 400 }))
    expect(status).toBeLessThan(500)
  }
  expect(({} as { polluted?: string }).polluted).toBeUndefined()

  // Guessing codes and pass phrases comes to an end, once the others are in: they come from the same address.
  await pause(ENTERING * 1000)
  const guesses = await Promise.all(
    Array.from({ length: 320 }, (_, i) =>
      call('POST', '/api/join', { body: { code: `AAA${String(i).padStart(3, '2')}`, name: '' } }),
    ),
  )
  guesses.forEach(count)
  expect(guesses.some(({ status }) => status === 429)).toBe(true)
  const phrases = await Promise.all(
    Array.from({ length: 30 }, (_, i) =>
      call('POST', '/api/enter', { body: { phrase: `guess number ${i}` } }),
    ),
  )
  expect(phrases.every(({ status }) => status === 403 || status === 429)).toBe(true)
  expect(phrases.some(({ status }) => status === 429)).toBe(true)

  // Bodies that never come, and a flood.
  const slow = Array.from({ length: 50 }, () => {
    const socket = connect(PORT, '127.0.0.1')
    socket.on('error', () => {})
    socket.write(
      `POST ${hand} HTTP/1.1\r\nHost: localhost:${PORT}\r\nCookie: ${harm}\r\nContent-Type: application/json\r\nContent-Length: 1000\r\n\r\n{`,
    )
    return socket
  })
  let flooded = 0
  while (performance.now() < until) {
    await Promise.all(
      Array.from({ length: 200 }, () => call('GET', '/api/class', { cookie: harm }).then(count)),
    )
    flooded += 200
  }
  for (const socket of slow) socket.destroy()
  await work
  console.log(
    `one who means harm, ${flooded} requests (${[...statuses].map(([status, n]) => `${n} x ${status}`).join(', ')}); ${memory()} MB; the others: ${watch.words()}`,
  )
  expect(watch.failures).toEqual([])
  expect((await call('GET', '/class', { cookie: victim.cookie })).status).toBe(200)
  expect((await call('GET', '/api/health')).status).toBe(200)
})

/** What is shown of an environment: the board, with a state selected. */
const shown = (selected: string) => ({
  title: 'Night rounds',
  text: '',
  scene: { stage: 'plan', layers: ['values', 'policy'], selected },
})

test('a change is seen by all who follow', async () => {
  const room = await openClass('Following')
  const [{ id: environment }] = await asOwner<{ id: string }[]>('GET', '/api/environments')
  const { document } = await asOwner<{ document: object }>('GET', `/api/environments/${environment}`)
  const address = `/api/classes/${room.id}/following`
  const { document: name } = await asOwner<{ document: string }>('PUT', address, {
    document,
    shown: shown('A1'),
  })
  let changed = 0
  let wanted = ''
  const delays: number[] = []
  const streams = await Promise.all(
    Array.from({ length: STUDENTS }, async () => {
      const { cookie } = await call('POST', '/api/join', { body: { code: room.code, name: '' } })
      const stream = ask({
        ...{ host: '127.0.0.1', port: PORT, path: '/api/class/events' },
        headers: { host: `localhost:${PORT}`, cookie },
      })
      stream.on('error', () => {})
      await new Promise<void>((resolve) => {
        stream.on('response', (answer) =>
          answer.on('data', (part: Buffer) => {
            resolve()
            if (wanted && part.includes(wanted)) delays.push(performance.now() - changed)
          }),
        )
        stream.end()
      })
      return stream
    }),
  )
  const CHANGES = 60
  for (let i = 0; i < CHANGES; i++) {
    wanted = `"selected":"${'ABCDEFGHIJ'[i % 10]}${1 + (i % 6)}"`
    changed = performance.now()
    await asOwner('PATCH', address, { document: name, shown: shown(JSON.parse(wanted.slice(11)) as string) })
    await pause(200)
  }
  for (const stream of streams) stream.destroy()
  const sorted = delays.sort((x, y) => x - y)
  console.log(
    `${streams.length} followers, ${CHANGES} changes: p50 ${Math.round(quantile(sorted, 0.5))} ms, p99 ${Math.round(quantile(sorted, 0.99))} ms, longest ${Math.round(quantile(sorted, 1))} ms`,
  )
  expect(delays.length).toBe(CHANGES * streams.length)
})
