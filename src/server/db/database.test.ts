import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { ProblemError } from '../../core/problem'
import { gridDocument } from '../../core/testing/models'
import { listAssignments } from '../repositories/assignments'
import { createEnvironment, deleteEnvironment } from '../repositories/environments'
import { listEnvironments } from '../repositories/shelf-list'
import { backUp, copyOfTheDay, restore } from './backup'
import { closeDatabase, openDatabase, stampOf } from './database'
import { lockShelf } from './lock'
import { handIns } from './schema'

let folder: string
const at = (name: string) => join(folder, name)

beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'database-'))))
afterAll(() => rmSync(folder, { recursive: true }))

/** What a promise is refused with, in a line. */
async function refused(promise: Promise<unknown>): Promise<string> {
  const error = await promise.then(
    () => null,
    (thrown: unknown) => thrown,
  )
  expect(error).toBeInstanceOf(ProblemError)
  return (error as ProblemError).message
}

/** Runs SQL in a file, as another program would. */
async function sql(path: string, ...statements: string[]): Promise<void> {
  const client = createClient({ url: `file:${path}` })
  for (const statement of statements) await client.execute(statement)
  client.close()
}

describe('a database that is none', () => {
  const cases: Record<string, [make: (path: string) => Promise<void> | void, says: RegExp]> = {
    'a folder': [(path) => mkdirSync(path), /It is a folder/],
    'a text': [(path) => writeFileSync(path, 'Dear diary, '.repeat(20)), /The file is no database/],
    'of another program': [(path) => sql(path, 'create table songs (name)'), /belongs to another program/],
    'of a newer version': [
      async (path) => {
        cpSync('tests/before/shelf.sqlite', path)
        await sql(path, "insert into __drizzle_migrations (hash, created_at) values ('x', 9999999999999)")
      },
      /written by a newer version/,
    ],
    damaged: [
      (path) => {
        cpSync('tests/before/shelf.sqlite', path)
        const file = openSync(path, 'r+')
        writeSync(file, Buffer.alloc(9000, 255), 0, 9000, 4096)
      },
      /It is damaged/,
    ],
  }
  for (const [name, [make, says]] of Object.entries(cases))
    it(`is refused in words and left as it is: ${name}`, async () => {
      const path = at(`${name}.sqlite`)
      await make(path)
      const before = name === 'a folder' ? null : readFileSync(path)
      const message = await refused(openDatabase(path))
      expect(message).toMatch(says)
      expect(message).toContain(path)
      if (before) expect(readFileSync(path).equals(before)).toBe(true)
      expect(readdirSync(folder).filter((each) => each.startsWith(name))).toEqual([`${name}.sqlite`])
    })

  it('or can have no folder', async () => {
    expect(await refused(openDatabase('/proc/nowhere/deep/shelf.sqlite'))).toMatch(
      /Its folder cannot be made/,
    )
  })
})

it('one of before is brought up to date, with all that is in it', async () => {
  cpSync('tests/before/shelf.sqlite', at('before.sqlite'))
  const db = await openDatabase(at('before.sqlite'))
  const shelf = await listEnvironments(db)
  expect(shelf.length).toBeGreaterThan(3)
  expect(shelf.every(({ damage }) => damage === null)).toBe(true)
  await closeDatabase(db)
})

it('what a class handed in keeps its scores when lists get columns of their own', async () => {
  const path = at('class-before.sqlite')
  const { entries } = JSON.parse(readFileSync('drizzle/meta/_journal.json', 'utf8')) as {
    entries: { idx: number; tag: string; when: number }[]
  }
  const before = entries.filter(({ idx }) => idx < 10)
  const quoted = (value: unknown) => `'${JSON.stringify(value).replaceAll("'", "''")}'`
  const exercise = {
    name: 'Open the vault',
    levels: [{ points: 20 }, { points: 30.5 }],
    seeds: { hidden: null },
  }
  const hidden = { name: "Emil's way", levels: [{ points: 7 }], seeds: { hidden: 5 } }
  const scored = { score: { levels: [{ points: 12.5 }, { points: 0 }] }, walks: [] }
  await sql(
    path,
    ...before.flatMap(({ tag }) =>
      readFileSync(`drizzle/${tag}.sql`, 'utf8').split('--> statement-breakpoint'),
    ),
    'create table __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)',
    `insert into __drizzle_migrations (hash, created_at) values ('x', ${before.at(-1)!.when})`,
    ...[exercise, hidden].map(
      (each, i) =>
        `insert into assignments (id, class_id, content, made_up_names, created_at) values ('a${i}', 'c', ${quoted(each)}, 0, ${i})`,
    ),
    `insert into hand_ins (id, assignment_id, student_id, content, state, open, open_points, created_at)
      values ('h1', 'a0', 's', '{"policy":{}}', 'scored', ${quoted(scored)}, 12.5, 1)`,
    `insert into hand_ins (id, assignment_id, student_id, content, state, problems, created_at)
      values ('h2', 'a0', 's', 'nothing', 'refused', '[]', 2)`,
  )
  const db = await openDatabase(path)
  expect((await listAssignments(db, 'c')).map(({ name, points, hidden }) => [name, points, hidden])).toEqual([
    ['Open the vault', 50.5, false],
    ["Emil's way", 7, true],
  ])
  const rows = await db.select().from(handIns).orderBy(handIns.createdAt)
  expect(
    rows.map(({ id, state, content, levelPoints, openPoints, problems }) => ({
      ...{ id, state, content, levelPoints, openPoints, problems },
    })),
  ).toEqual([
    {
      id: 'h1',
      state: 'scored',
      content: '{"policy":{}}',
      levelPoints: '[12.5,0]',
      openPoints: 12.5,
      problems: null,
    },
    { id: 'h2', state: 'refused', content: 'nothing', levelPoints: null, openPoints: null, problems: '[]' },
  ])
  await closeDatabase(db)
})

it('has a stamp that every change alters, by whomever, and nothing else', async () => {
  const db = await openDatabase(at('stamped.sqlite'))
  const stamps = [await stampOf(db)]
  const id = (await createEnvironment(db, gridDocument(['..']))).id
  stamps.push(await stampOf(db))
  await sql(at('stamped.sqlite'), `update environments set name = 'Other' where id = '${id}'`)
  stamps.push(await stampOf(db))
  await deleteEnvironment(db, id)
  stamps.push(await stampOf(db))
  expect(new Set(stamps).size).toBe(stamps.length)
  await listEnvironments(db)
  expect(await stampOf(db)).toBe(stamps.at(-1))
  await closeDatabase(db)
})

it('after it is closed a copy of the file alone has everything', async () => {
  const db = await openDatabase(at('closed.sqlite'))
  await createEnvironment(db, { ...gridDocument(['..']), name: 'The last one' })
  await closeDatabase(db)
  cpSync(at('closed.sqlite'), at('copied.sqlite'))
  const copy = await openDatabase(at('copied.sqlite'))
  expect((await listEnvironments(copy)).map(({ name }) => name)).toContain('The last one')
  await closeDatabase(copy)
})

describe('the right to serve', () => {
  it('is held by one at a time, and says by whom', async () => {
    const giveBack = await lockShelf(at('locked.sqlite'), 'http://localhost:3000')
    expect(await refused(lockShelf(at('locked.sqlite'), 'http://localhost:3001'))).toContain(
      `It is served already, at http://localhost:3000 by process ${process.pid}.`,
    )
    await giveBack()
  })

  it('can be given back', async () => {
    for (const port of [3000, 3001]) {
      const giveBack = await lockShelf(at('unlocked.sqlite'), `http://localhost:${port}`)
      await giveBack()
    }
  })
})

describe('a backup', () => {
  let path: string
  let count = 0
  const names = async (file = path) => {
    const db = await openDatabase(file)
    const found = (await listEnvironments(db)).map(({ name }) => name)
    await closeDatabase(db)
    return found
  }
  beforeEach(async () => {
    path = at(`served-${count++}.sqlite`)
    const db = await openDatabase(path)
    await createEnvironment(db, { ...gridDocument(['..']), name: 'First' })
    await closeDatabase(db)
  })

  it('is written while the database is in use, and never over a file that is there', async () => {
    const db = await openDatabase(path)
    await createEnvironment(db, { ...gridDocument(['..']), name: 'Still beside the file' })
    await backUp(path, at('deep/er/copy.sqlite'))
    expect(await names(at('deep/er/copy.sqlite'))).toContain('Still beside the file')
    expect(await refused(backUp(path, at('deep/er/copy.sqlite')))).toMatch(/there already/)
    expect(await refused(backUp(at('none.sqlite'), at('x.sqlite')))).toMatch(/It is not there/)
    expect(await refused(backUp(path, '/proc/x.sqlite'))).toMatch(/file \/proc\/x\.sqlite/)
    await closeDatabase(db)
  })

  it('comes back, and what was there before is kept', async () => {
    const copy = at(`copy-${count}.sqlite`)
    await backUp(path, copy)
    const db = await openDatabase(path)
    const [first] = await listEnvironments(db)
    await createEnvironment(db, { ...gridDocument(['..']), name: 'Second' })
    await deleteEnvironment(db, first.id)
    await closeDatabase(db)
    const before = await restore(path, copy, new Date(Date.UTC(2030, 0, 2, 3, 4, 5)))
    expect(before).toBe(`${path}.before-2030-01-02T03-04-05`)
    expect(await names()).toContain('First')
    expect(await names()).not.toContain('Second')
    expect(await names(before!)).toContain('Second')
  })

  it('is not restored while the database is served, nor from what is none', async () => {
    const copy = at(`safe-${count}.sqlite`)
    await backUp(path, copy)
    const giveBack = await lockShelf(path, 'http://localhost:3000')
    expect(await refused(restore(path, copy))).toMatch(/served already/)
    await giveBack()
    writeFileSync(at('poem.txt'), 'Roses are red, violets are blue. '.repeat(10))
    expect(await refused(restore(path, at('poem.txt')))).toMatch(/no database/)
    expect(await refused(restore(path, at('nothing.sqlite')))).toMatch(/It is not there/)
    expect(await names()).toContain('First')
    expect(existsSync(`${path}.incoming`)).toBe(false)
  })

  it('is made once a day, and the oldest go', async () => {
    const db = await openDatabase(path)
    const days = at(`days-${count}`)
    const on = (day: number) => copyOfTheDay(db.$client, days, 3, new Date(Date.UTC(2030, 0, day, 12)))
    expect(await on(1)).toBe(join(days, 'shelf-2030-01-01.sqlite'))
    expect(await on(1)).toBeNull()
    writeFileSync(join(days, 'mine.sqlite'), 'not one of them')
    for (const day of [2, 3, 4, 5]) await on(day)
    expect(readdirSync(days).sort()).toEqual([
      'mine.sqlite',
      'shelf-2030-01-03.sqlite',
      'shelf-2030-01-04.sqlite',
      'shelf-2030-01-05.sqlite',
    ])
    expect(await names(join(days, 'shelf-2030-01-05.sqlite'))).toContain('First')
    await closeDatabase(db)
  })
})
