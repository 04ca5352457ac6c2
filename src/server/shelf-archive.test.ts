import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { newComparison } from '../core/compare/comparison'
import { addView } from '../core/lesson/lesson'
import { newLesson } from '../core/lesson/lesson-document'
import { checkScene } from '../core/lesson/read-lesson'
import { storedTable } from '../hosts/node/document-tasks'
import { HALL, hallTable } from '../core/testing/tables'
import { openDatabase } from './db/database'
import type { OpenDatabase } from './db/schema'
import { getCheckpoint, insertCheckpoint, listCheckpoints } from './repositories/checkpoints'
import { insertComparison, listComparisons } from './repositories/comparisons'
import { createEnvironment, createVariant, getEnvironment } from './repositories/environments'
import { createLesson, getLesson, listLessons } from './repositories/lessons'
import { listEnvironments } from './repositories/shelf-list'
import { packShelf, unpackShelf } from './shelf-archive'

let folder: string
let from: OpenDatabase
let to: OpenDatabase

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'archive-'))
  from = await openDatabase(join(folder, 'from.sqlite'))
  to = await openDatabase(join(folder, 'to.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const TABLE = hallTable('Learned/by ../heart')

it('carries a shelf to another one: documents, variants, tables and comparisons', async () => {
  const { id } = await createEnvironment(from, HALL)
  await createVariant(from, id, 'Hall, variant')
  await insertCheckpoint(from, id, storedTable(TABLE))
  await insertComparison(from, id, { ...newComparison('Which is faster'), note: 'Look.' })
  const archive = await packShelf(from)
  expect(
    Object.keys(unzipSync(archive)).every((path) => /^([a-z]+\/\d{4}-[^/]+|shelf)\.json$/.test(path)),
  ).toBe(true)

  const before = await listEnvironments(to)
  const source = await listEnvironments(from)
  expect(await unpackShelf(to, archive)).toBe(source.length)
  const shelf = await listEnvironments(to)
  expect(shelf).toHaveLength(before.length + source.length)
  // In the order in which they stood there.
  expect(shelf.slice(0, source.length).map(({ name }) => name)).toEqual(source.map(({ name }) => name))
  const copy = shelf.find(({ name }) => name === 'Hall')!
  expect(copy.id).not.toBe(id)
  expect((await getEnvironment(to, copy.id))?.document).toEqual(HALL)
  expect(shelf.find(({ name }) => name === 'Hall, variant')?.base).toEqual({ id: copy.id, name: 'Hall' })
  const [table] = (await listCheckpoints(to)).filter(({ environment }) => environment.id === copy.id)
  expect(await getCheckpoint(to, table.id)).toEqual(TABLE)
  expect((await listComparisons(to, copy.id)).map(({ name }) => name)).toEqual(['Which is faster'])
})

it('carries lessons, with their environments found again on the other shelf', async () => {
  const { id } = await createEnvironment(from, { ...HALL, name: 'Taught hall' })
  const scene = checkScene({ stage: 'plan' }, HALL)
  const words = { title: 'One', text: '', notes: '' }
  let lesson = addView(newLesson('Carried'), words, scene, { shelf: id, document: HALL })
  lesson = addView(lesson, words, scene, { shelf: 'gone', document: { ...HALL, name: 'Elsewhere' } })
  await createLesson(from, lesson)
  const torn = await createLesson(from, newLesson('Torn lesson'))
  await from.$client.execute({ sql: "update lessons set content = '{torn' where id = ?", args: [torn.id] })
  const packed = await packShelf(from)
  expect(Object.keys(unzipSync(packed)).some((path) => /^unreadable\/.*torn-lesson\.txt$/.test(path))).toBe(
    true,
  )
  await unpackShelf(to, packed)
  const { id: copy } = (await listLessons(to)).find(({ name }) => name === 'Carried')!
  const carried = (await getLesson(to, copy))!.lesson
  const hall = (await listEnvironments(to)).find(({ name }) => name === 'Taught hall')!
  expect(carried.environments[carried.views[0].environment].shelf).toBe(hall.id)
  expect(carried.environments[carried.views[1].environment].shelf).toBeNull()
  expect(carried.views).toEqual(lesson.views)
})

it('takes along to the letter what cannot be read', async () => {
  const { id } = await createEnvironment(from, { ...HALL, name: 'Torn' })
  await from.$client.execute({ sql: "update environments set document = '{torn' where id = ?", args: [id] })
  const files = unzipSync(await packShelf(from))
  const torn = Object.keys(files).find((path) => path.startsWith('unreadable/'))!
  expect(torn).toMatch(/-torn\.txt$/)
  expect(strFromU8(files[torn])).toBe('{torn')
})

const archive = (files: Record<string, unknown>) =>
  zipSync(
    Object.fromEntries(Object.entries(files).map(([path, value]) => [path, strToU8(JSON.stringify(value))])),
  )
const contents = (...environments: object[]) => ({ format: 'jaunty-pawn/shelf', version: 1, environments })

const WRONG: Record<string, [archive: () => Uint8Array, says: RegExp]> = {
  'no zip': [() => strToU8('hello'), /archive: It is no zip archive/],
  'without contents': [() => archive({}), /shelf\.json, archive: This file is not in it/],
  'of a newer form': [
    () => archive({ 'shelf.json': { ...contents(), version: 9 } }),
    /shelf\.json, contents: "version"/,
  ],
  'with a file missing': [
    () => archive({ 'shelf.json': contents({ file: 'a.json' }) }),
    /a\.json, archive: This file is not in it/,
  ],
  'with a fault in the last of its files': [
    () =>
      archive({
        'shelf.json': contents({ file: 'a.json' }, { file: 'b.json' }),
        'a.json': HALL,
        'b.json': { ...HALL, discount: 7 },
      }),
    /b\.json, discount/,
  ],
  'with a table that is none': [
    () =>
      archive({
        'shelf.json': contents({ file: 'a.json', tables: ['t.json'] }),
        'a.json': HALL,
        't.json': {},
      }),
    /t\.json, .*not a learned table/,
  ],
  'with a variant of itself': [
    () =>
      archive({
        'shelf.json': contents({ file: 'a.json', base: 'b.json' }, { file: 'b.json', base: 'a.json' }),
        'a.json': HALL,
        'b.json': HALL,
      }),
    /is a variant of itself/,
  ],
}
for (const [name, [make, says]] of Object.entries(WRONG))
  it(`refuses an archive ${name}, and stores nothing of it`, async () => {
    const before = await listEnvironments(to)
    await expect(unpackShelf(to, make())).rejects.toThrow(says)
    expect(await listEnvironments(to)).toEqual(before)
  })
