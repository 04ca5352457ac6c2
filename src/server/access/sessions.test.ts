import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { closeDatabase, openDatabase } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import { countFor, takeBack } from './limits'
import { hasPassPhrase, isPassPhrase, needPassPhrase, setPassPhrase } from './pass-phrase'
import { generationOf, keptToken, newToken, sessionCookie, sessionOf } from './sessions'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-sessions-'))
let db: OpenDatabase
beforeAll(async () => void (db = await openDatabase(join(folder, 'shelf.sqlite'))))
afterAll(async () => {
  await closeDatabase(db)
  rmSync(folder, { recursive: true, force: true })
})

/** What a browser sends back of a Set-Cookie header. */
const sentBack = (header: string) => header.split(';')[0]

describe('a session', () => {
  it('says who it is by the way it was made for alone', async () => {
    const cookie = sentBack(await sessionCookie(db, 'student', 'ada', false))
    expect(await sessionOf(db, `theme=night; ${cookie}; more=1`, 'student')).toBe('ada')
    expect(await sessionOf(db, cookie, 'owner')).toBeNull()
    // The same seal under the name of the other way.
    expect(await sessionOf(db, cookie.replace('pawn-student', 'pawn-owner'), 'owner')).toBeNull()
  })

  it('is nothing where a sign of it was changed, or another server sealed it', async () => {
    const cookie = sentBack(await sessionCookie(db, 'student', 'ada', false))
    for (const place of [20, 60, cookie.length - 5]) {
      const sign = cookie[place] === 'A' ? 'B' : 'A'
      const changed = cookie.slice(0, place) + sign + cookie.slice(place + 1)
      expect(await sessionOf(db, changed, 'student')).toBeNull()
    }
    const other = await openDatabase(join(folder, 'other.sqlite'))
    expect(await sessionOf(other, cookie, 'student')).toBeNull()
    await closeDatabase(other)
    for (const nonsense of [
      undefined,
      '',
      'pawn-student=',
      'pawn-student=x',
      `pawn-student=${'x'.repeat(5000)}`,
    ])
      expect(await sessionOf(db, nonsense, 'student')).toBeNull()
  })
})

describe('a pass phrase', () => {
  it('is asked for where none is kept, and kept as no text of it', async () => {
    await expect(needPassPhrase(db, undefined, null)).rejects.toThrow('no pass phrase is set')
    await needPassPhrase(db, undefined, async () => 'lamp over the stairs')
    expect(await hasPassPhrase(db)).toBe(true)
    expect(await isPassPhrase(db, 'lamp over the stairs')).toBe(true)
    expect(await isPassPhrase(db, 'lamp over the stair')).toBe(false)
    expect(await isPassPhrase(db, 'x'.repeat(201))).toBe(false)
    // From then on nobody is asked.
    await needPassPhrase(db, undefined, null)
  })

  it('that is another one ends what was opened by the one before, the same one does not', async () => {
    const before = await generationOf(db)
    await needPassPhrase(db, 'lamp over the stairs', null)
    expect(await generationOf(db)).toBe(before)
    await needPassPhrase(db, 'another four words', null)
    expect(await generationOf(db)).not.toBe(before)
    await expect(setPassPhrase(db, 'short')).rejects.toThrow('It has 5 characters.')
    await expect(setPassPhrase(db, 'x'.repeat(201))).rejects.toThrow('It has 201 characters.')
  })
})

it('a token is kept as what it cannot be worked out from', () => {
  const { token, kept } = newToken()
  expect(token).toMatch(/^[\w-]{32}$/)
  expect(keptToken(token)).toBe(kept)
  expect(kept).not.toContain(token.slice(0, 8))
  expect(newToken().token).not.toBe(token)
})

it('what is counted can be taken back, so that only what goes wrong is limited', async () => {
  for (let i = 0; i < 10; i++) expect(await countFor('phrase', 'one')).toBe(0)
  expect(await countFor('phrase', 'one')).toBeGreaterThan(0)
  expect(await countFor('phrase', 'another')).toBe(0)
  for (let i = 0; i < 50; i++) {
    expect(await countFor('phrase', 'right')).toBe(0)
    await takeBack('phrase', 'right')
  }
})
