import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { announce, classNow, listen } from './class-events'
import type { ClassNow } from './contract/questions'
import { database } from './db/database'
import type { OpenDatabase } from './db/schema'
import { endStreams, eventStream } from './http/event-stream'
import { createClass } from './repositories/classes'
import { askClass } from './repositories/questions'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-events-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => {
  endStreams()
  rmSync(folder, { recursive: true, force: true })
})

let db: OpenDatabase
let classId: string
beforeEach(async () => {
  db = await database()
  classId = await createClass(db, 'Autumn')
})

describe('what goes on in a class', () => {
  it('is told to all who listen, each time later than before, and to nobody of another class', async () => {
    const other = await createClass(db, 'Winter')
    const heard: ClassNow[] = []
    const elsewhere: ClassNow[] = []
    const stops = [listen(classId, (now) => heard.push(now)), listen(other, (now) => elsewhere.push(now))]
    const before = await classNow(classId)
    await announce(classId)
    await askClass(db, classId, { kind: 'number', text: 'How far?' }, { value: 3, working: 'counted' })
    await announce(classId)
    expect(heard.map(({ question }) => question?.question.text)).toEqual([undefined, 'How far?'])
    const versions = [before, ...heard].map(({ version }) => version)
    expect(versions).toEqual([...versions].sort((x, y) => x - y))
    expect(new Set(versions).size).toBe(3)
    expect(elsewhere).toEqual([])
    // What is true is told to nobody before it is revealed.
    expect(JSON.stringify(heard)).not.toContain('counted')
    for (const stop of stops) stop()
    await announce(classId)
    expect(heard).toHaveLength(2)
  })

  it('is looked up once for many who ask', async () => {
    expect(await classNow(classId)).toBe(await classNow(classId))
    const before = await classNow(classId)
    await announce(classId)
    expect(await classNow(classId)).not.toBe(before)
  })
})

describe('streams', () => {
  it('begin with what goes on, and end when their class is told to', async () => {
    const reader = eventStream('ada', classId, await classNow(classId)).body!.getReader()
    const text = new TextDecoder().decode((await reader.read()).value)
    expect(text).toMatch(/^id: \d+\ndata: \{.*\}\n\n$/)
    endStreams('another class')
    await announce(classId)
    expect((await reader.read()).done).toBe(false)
    endStreams(classId)
    expect((await reader.read()).done).toBe(true)
  })

  it('are six for a student; one that is closed makes room', async () => {
    const now = await classNow(classId)
    const open = Array.from({ length: 6 }, () => eventStream('bo', classId, now))
    expect(open.every(({ status }) => status === 200)).toBe(true)
    expect(eventStream('bo', classId, now).status).toBe(429)
    expect(eventStream('cy', classId, now).status).toBe(200)
    await open[2].body!.cancel()
    expect(eventStream('bo', classId, now).status).toBe(200)
  })
})
