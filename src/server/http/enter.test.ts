import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { setPassPhrase } from '../access/pass-phrase'
import { generationOf, sessionOf } from '../access/sessions'
import { NOBODY } from '../access/caller'
import { database } from '../db/database'
import { changeClass, createClass, getClass, membersOf } from '../repositories/classes'
import { requestOf } from '../testing/callers'
import * as enter from './enter'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-enter-'))
beforeAll(async () => {
  process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')
  await setPassPhrase(await database(), 'lamp over the stairs')
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))
// Each test comes from an address of its own.
let address = ''
let tests = 0
beforeEach(() => void (address = `10.1.0.${++tests}`))

const asked = (path: string, body: unknown, headers: Record<string, string> = {}) =>
  requestOf(NOBODY, `http://localhost/api/${path}`, {
    method: 'POST',
    body: typeof body === 'string' ? body : JSON.stringify(body),
    headers: { 'x-address': address, ...headers },
  })
const joined = (code: string, name: string, headers?: Record<string, string>) =>
  enter.join(asked('join', { code, name }, headers))
const cookieOf = (answer: Response) => answer.headers.get('set-cookie') ?? ''
const causeOf = async (answer: Response) =>
  ((await answer.json()) as { problems: { cause: string }[] }).problems[0].cause

async function opened(): Promise<{ id: string; code: string }> {
  const db = await database()
  const id = await createClass(db, 'Autumn')
  return { id, code: (await getClass(db, id))!.code! }
}

describe('the instructor', () => {
  it('comes in by the pass phrase, with a cookie that scripts and other sites do not get', async () => {
    const answer = await enter.enter(asked('enter', { phrase: 'lamp over the stairs' }))
    expect(answer.status).toBe(204)
    expect(cookieOf(answer)).toMatch(/; HttpOnly; SameSite=Lax$/)
    const db = await database()
    expect(await sessionOf(db, cookieOf(answer).split(';')[0], 'owner')).toBe(await generationOf(db))
    const secure = await enter.enter(
      asked('enter', { phrase: 'lamp over the stairs' }, { 'x-secure': 'yes' }),
    )
    expect(cookieOf(secure)).toMatch(/; Secure$/)
    expect(cookieOf(await enter.leave(asked('enter', {})))).toContain('Max-Age=0')
  })

  it('has a few attempts, which nobody elsewhere uses up', async () => {
    for (let i = 0; i < 10; i++)
      expect((await enter.enter(asked('enter', { phrase: `wrong ${i}` }))).status).toBe(403)
    const locked = await enter.enter(asked('enter', { phrase: 'lamp over the stairs' }))
    expect([locked.status, await causeOf(locked)]).toEqual([429, 'Too many attempts.'])
    address = '10.2.0.1'
    expect((await enter.enter(asked('enter', { phrase: 'lamp over the stairs' }))).status).toBe(204)
  })

  it('cannot be guessed by many attempts at once, and right ones do not count', async () => {
    address = '10.2.0.2'
    const right = () => enter.enter(asked('enter', { phrase: 'lamp over the stairs' }))
    for (let i = 0; i < 12; i++) expect((await right()).status).toBe(204)
    const all = await Promise.all(
      Array.from({ length: 30 }, (_, i) => enter.enter(asked('enter', { phrase: `at once ${i}` }))),
    )
    expect(all.filter(({ status }) => status === 403)).toHaveLength(10)
    expect(all.filter(({ status }) => status === 429)).toHaveLength(20)
  })

  it('sends no more than a pass phrase', async () => {
    for (const [body, status] of [
      [{}, 400],
      [{ phrase: 7 }, 400],
      ['{', 400],
      [{ phrase: 'x'.repeat(20_000) }, 400],
      [{ phrase: 'x', more: 1 }, 400],
    ] as const)
      expect((await enter.enter(asked('enter', body))).status).toBe(status)
  })
})

describe('a student', () => {
  it('comes in by the code however it is written, under a name or a made-up one', async () => {
    const { id, code } = await opened()
    const spaced = ` ${code.slice(0, 3).toLowerCase()}-${code.slice(3)} `
    const answer = await joined(spaced, '  Ada   Lovelace ')
    expect(answer.status).toBe(204)
    await joined(code, '')
    const [ada, other] = await membersOf(await database(), id)
    expect(ada.name).toBe('Ada Lovelace')
    expect(other.name).toBe(other.alias)
    expect(other.alias).toMatch(/^\w+ \w+$/)
    expect(await sessionOf(await database(), cookieOf(answer).split(';')[0], 'student')).toBe(ada.id)
    // It opens nothing else.
    expect(await sessionOf(await database(), cookieOf(answer).split(';')[0], 'owner')).toBeNull()
  })

  it('has a name that nobody else in the class has, without signs that cannot be seen', async () => {
    const { id, code } = await opened()
    await joined(code, 'Ada')
    expect(await causeOf(await joined(code, 'ADA'))).toBe('Somebody in the class is called “ADA” already.')
    expect((await joined((await opened()).code, 'Ada')).status).toBe(204)
    await joined(code, 'B\u0000o')
    expect((await membersOf(await database(), id)).map(({ name }) => name)).toEqual(['Ada', 'B␀o'])
  })

  it('does not come in by another code, an old one, or that of a class that is closed', async () => {
    const { id, code } = await opened()
    expect((await joined('ZZZZZZ', 'Ada')).status).toBe(404)
    expect((await joined('', 'Ada')).status).toBe(400)
    await changeClass(await database(), id, 'new-code')
    expect((await joined(code, 'Ada')).status).toBe(404)
    const { code: next } = (await getClass(await database(), id))!
    expect((await joined(next!, 'Ada')).status).toBe(204)
    await changeClass(await database(), id, 'close')
    expect((await joined(next!, 'Bo')).status).toBe(404)
  })

  it('cannot guess codes for long', async () => {
    const { code } = await opened()
    let status = 404
    let guesses = 0
    for (; status === 404; guesses++) status = (await joined(`Q${guesses}`, '')).status
    expect([status, guesses]).toEqual([429, 301])
    expect((await joined(code, '')).status).toBe(429)
    address = '10.3.0.1'
    expect((await joined(code, '')).status).toBe(204)
  })
})
