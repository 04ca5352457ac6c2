import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { AskedQuestion, ClassNow, Question } from '../contract/questions'
import { database } from '../db/database'
import { createClass, enterClass, getClass } from '../repositories/classes'
import { fromOwner, fromStudent } from '../testing/callers'
import { endStreams } from './event-stream'
import * as questions from './questions'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-questions-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const at = 'http://localhost/api'

/** A class with some students. */
async function classOf(students: number) {
  const db = await database()
  const id = await createClass(db, 'Autumn')
  const { code } = (await getClass(db, id))!
  const who: string[] = []
  for (let i = 0; i < students; i++) who.push((await enterClass(db, code!, `Student ${i}`))!)
  const ask = async (question: unknown, truth: unknown = null) => {
    const body = JSON.stringify({ question, truth })
    const answer = await questions.ask(
      fromOwner(`${at}/classes/${id}/questions`, { method: 'POST', body }),
      id,
    )
    return { status: answer.status, id: ((await answer.json()) as { id: string }).id }
  }
  const become = async (question: string, state: string) => {
    const address = `${at}/classes/${id}/questions/${question}`
    const request = fromOwner(address, { method: 'PATCH', body: JSON.stringify({ state }) })
    return (await questions.change(request, id, question)).status
  }
  const read = async (question: string) =>
    (await (
      await questions.read(fromOwner(`${at}/classes/${id}/questions/${question}`), id, question)
    ).json()) as AskedQuestion
  const put = async (question: string, student: number, value: unknown) => {
    const init = { method: 'PUT', body: JSON.stringify({ value }) }
    const request = fromStudent(who[student], id, `${at}/class/questions/${question}`, init)
    return (await questions.put(request, question)).status
  }
  /** What goes on, told one after the other. */
  const events = async (student: number) => {
    const answer = await questions.events(fromStudent(who[student], id, `${at}/class/events`))
    const reader = answer.body?.getReader()
    return {
      status: answer.status,
      async next(): Promise<ClassNow> {
        const { value } = await reader!.read()
        return JSON.parse(/^data: (.*)$/m.exec(new TextDecoder().decode(value))![1]) as ClassNow
      },
      end: async () => reader?.cancel(),
    }
  }
  return { id, ask, become, read, put, events }
}

const NUMBER: Question = { kind: 'number', text: 'How far?' }
const NEEDLE: Question = { kind: 'needle', text: 'Where to?', choices: ['north', 'east'] }

it('a working keeps its lines, and nothing else that cannot be seen', async () => {
  const { ask, read } = await classOf(0)
  const working = 'V(A4) = 0.8 × 6\n= 4.8'
  const { id } = await ask(NUMBER, { value: 4.8, working: `${working}\u0007` })
  expect((await read(id)).truth!.working).toBe(`${working}␇`)
})

it('each student has one answer, of which nobody is told whose it is', async () => {
  const { ask, read, put } = await classOf(3)
  const { id } = await ask(NUMBER, { value: 2, working: 'by hand' })
  for (const [student, value] of [
    [0, 5],
    [1, -1.5],
    [0, 3],
  ] as const)
    expect(await put(id, student, value)).toBe(204)
  const asked = await read(id)
  expect(asked.spread).toEqual({ values: [-1.5, 3], answers: 2 })
  expect(Object.keys(asked.spread)).toEqual(['values', 'answers'])
  const { id: other } = await ask(NEEDLE)
  for (const [student, value] of [
    [0, 1],
    [1, 1],
    [2, 0],
  ] as const)
    await put(other, student, value)
  expect((await read(other)).spread).toEqual({ values: [1, 2], answers: 3 })
})

it('takes no answer that is none, none after the end, and none of another class', async () => {
  const { ask, put, become } = await classOf(1)
  const { id } = await ask(NEEDLE)
  for (const wrong of [2, -1, 0.5, 1e300, '1', null, undefined, [0]])
    expect(await put(id, 0, wrong)).toBe(400)
  expect(await become(id, 'closed')).toBe(204)
  expect(await put(id, 0, 1)).toBe(400)
  expect(await become(id, 'open')).toBe(204)
  expect(await put(id, 0, 1)).toBe(204)
  const other = await classOf(1)
  expect(await other.put(id, 0, 1)).toBe(404)
  expect(await other.become(id, 'revealed')).toBe(404)
  // Asking anew closes what was open.
  await ask(NUMBER)
  expect(await put(id, 0, 0)).toBe(400)
})

it('what makes no question is refused', async () => {
  const { ask } = await classOf(0)
  for (const wrong of [
    {},
    { kind: 'number', text: '' },
    { kind: 'choice', text: 'Which?' },
    { kind: 'choice', text: 'Which?', choices: ['one'] },
    { kind: 'number', text: 'How far?', choices: ['a', 'b'] },
    { kind: 'poem', text: 'x' },
  ])
    expect((await ask(wrong)).status).toBe(400)
})

it('is told to all of the class as it changes, what is true only when it is revealed', async () => {
  const { ask, put, become, events } = await classOf(2)
  const ada = await events(0)
  expect(await ada.next()).toMatchObject({ question: null })
  const { id } = await ask(NUMBER, { value: 2, working: 'by hand' })
  const open = await ada.next()
  expect(open.question).toEqual({ id, question: NUMBER, state: 'open', revealed: null })
  await put(id, 1, 4)
  await become(id, 'revealed')
  const last = await ada.next()
  expect(last.version).toBeGreaterThan(open.version)
  expect(last.question!.revealed).toEqual({
    truth: { value: 2, working: 'by hand' },
    spread: { values: [4], answers: 1 },
  })
  // Whoever comes now gets it as it is now.
  const bo = await events(1)
  expect(await bo.next()).toEqual(last)
  await Promise.all([ada.end(), bo.end()])
})

it('a student may have so many pages open, and those that end make room', async () => {
  const { events, id } = await classOf(1)
  const open = []
  for (let i = 0; i < 6; i++) open.push(await events(0))
  expect(open.map(({ status }) => status)).toEqual(new Array(6).fill(200))
  expect((await events(0)).status).toBe(429)
  await open[0].end()
  const again = await events(0)
  expect(again.status).toBe(200)
  endStreams(id)
  expect((await events(0)).status).toBe(200)
  endStreams(id)
})
