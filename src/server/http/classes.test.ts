import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { newExercise } from '../../core/exercise/new-exercise'
import { gridDocument } from '../../core/testing/models'
import type { ClassRecord, ClassSummary } from '../contract/classes'
import { database } from '../db/database'
import { handIns } from '../db/schema'
import { enterClass } from '../repositories/classes'
import { fromOwner } from '../testing/callers'
import * as classes from './classes'
import { create as createExercise } from './exercises'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-classes-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const at = 'http://localhost/api/classes'
const sent = (method: string, body?: unknown) =>
  fromOwner(at, { method, ...(body === undefined ? {} : { body: JSON.stringify(body) }) })
const read = async (of: string) => (await (await classes.read(sent('GET'), of)).json()) as ClassRecord
const terms = { tries: null, closesAt: null, madeUpNames: false }

let id: string
beforeEach(async () => {
  const answer = await classes.create(sent('POST', { name: '  Autumn ' }))
  expect(answer.status).toBe(201)
  id = ((await answer.json()) as { id: string }).id
})

async function exercise(): Promise<string> {
  const hall = { ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }), name: 'Hall' }
  return ((await (await createExercise(sent('POST', newExercise(hall, 7)))).json()) as { id: string }).id
}

describe('a class', () => {
  it('has a name, a code and nobody in it', async () => {
    expect(await read(id)).toMatchObject({ name: 'Autumn', members: [], assignments: [], students: 0 })
    expect((await read(id)).code).toMatch(/^[A-Z2-9]{6}$/)
    const listed = (await (await classes.list(sent('GET'))).json()) as ClassSummary[]
    expect(listed.map((each) => each.id)).toContain(id)
  })

  it('is renamed, gets another code, is closed and opened again', async () => {
    const { code } = await read(id)
    const change = async (body: unknown) => (await classes.change(sent('PATCH', body), id)).status
    expect(await change({ name: 'Winter' })).toBe(204)
    expect(await change({ change: 'new-code' })).toBe(204)
    const renewed = await read(id)
    expect(renewed.name).toBe('Winter')
    expect(renewed.code).not.toBe(code)
    expect(await change({ change: 'close' })).toBe(204)
    expect((await read(id)).code).toBeNull()
    // Nothing is handed out to a class that is closed.
    const given = sent('POST', { ...terms, exercise: await exercise() })
    expect((await classes.createAssignment(given, id)).status).toBe(404)
    expect(await change({ change: 'open' })).toBe(204)
    expect((await read(id)).code).not.toBeNull()
    for (const wrong of [
      {},
      { name: ' ' },
      { name: 'x'.repeat(81) },
      { change: 'burn' },
      { name: 'A', change: 'open' },
    ])
      expect([wrong, await change(wrong)]).toEqual([wrong, 400])
  })

  it('tells in its log what was changed, by whom, the last in front', async () => {
    const { code } = await read(id)
    const student = (await enterClass(await database(), code!, 'Ada'))!
    await classes.changeStudent(sent('PATCH', { out: true }), id, student)
    expect((await read(id)).members).toMatchObject([{ name: 'Ada', putOut: true }])
    await classes.changeStudent(sent('PATCH', { out: false }), id, student)
    expect((await read(id)).members).toMatchObject([{ putOut: false }])
    const log = (await (await classes.readAudit(sent('GET'), id)).json()) as { who: string; what: string }[]
    expect(log.map(({ who, what }) => [who, what])).toEqual([
      ['owner', 'Let back in: “Ada”.'],
      ['owner', 'Removed: “Ada”.'],
      [student, 'Entered the class as “Ada”.'],
      ['owner', 'Opened the class “Autumn”.'],
    ])
  })

  it('is deleted for good, with all that was handed in', async () => {
    const { code } = await read(id)
    const db = await database()
    const student = (await enterClass(db, code!, 'Ada'))!
    await classes.createAssignment(sent('POST', { ...terms, exercise: await exercise() }), id)
    const [{ id: assignmentId }] = (await read(id)).assignments
    await db.insert(handIns).values({
      ...{ id: 'h', assignmentId, studentId: student, state: 'late', content: '', createdAt: new Date() },
    })
    expect((await classes.remove(sent('DELETE'), id)).status).toBe(204)
    expect((await classes.read(sent('GET'), id)).status).toBe(404)
    expect(await db.select().from(handIns)).toEqual([])
    expect((await classes.remove(sent('DELETE'), id)).status).toBe(404)
  })
})

describe('what is handed out', () => {
  it('keeps to its terms, which can be changed, and is withdrawn', async () => {
    const made = await classes.createAssignment(sent('POST', { ...terms, exercise: await exercise() }), id)
    const { id: assignment } = (await made.json()) as { id: string }
    const [listed] = (await read(id)).assignments
    expect(listed).toMatchObject({ id: assignment, ...terms, handIns: 0, students: 0, revealed: false })
    const change = async (body: unknown) =>
      (await classes.changeOfAssignment(sent('PATCH', body), id, assignment)).status
    const other = { tries: 3, closesAt: '2026-12-01T10:00:00.000Z', madeUpNames: true }
    expect(await change({ change: 'terms', terms: other })).toBe(204)
    expect((await read(id)).assignments[0]).toMatchObject(other)
    for (const wrong of [
      { change: 'terms' },
      { change: 'reveal', terms: other },
      { change: 'terms', terms: { ...other, tries: 0 } },
    ])
      expect([wrong, await change(wrong)]).toEqual([wrong, 400])
    expect(await change({ change: 'reveal' })).toBe(204)
    expect((await read(id)).assignments[0].revealed).toBe(true)
    expect(await change({ change: 'withdraw' })).toBe(204)
    expect((await read(id)).assignments).toEqual([])
    expect(await change({ change: 'reveal' })).toBe(404)
  })

  it('has standings and a list for the class it was given to alone', async () => {
    const made = await classes.createAssignment(sent('POST', { ...terms, exercise: await exercise() }), id)
    const { id: assignment } = (await made.json()) as { id: string }
    const status = async (run: typeof classes.readStandings, of: string) =>
      (await run(sent('GET'), of, assignment)).status
    expect(await status(classes.readStandings, id)).toBe(200)
    expect(await status(classes.handInsCsv, id)).toBe(200)
    const other = (await (await classes.create(sent('POST', { name: 'Winter' }))).json()) as { id: string }
    expect(await status(classes.readStandings, other.id)).toBe(404)
    expect(await status(classes.handInsCsv, other.id)).toBe(404)
  })
})
