import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest'
import { newComparison } from '../../core/compare/comparison'
import { storedTable } from '../../hosts/node/document-tasks'
import { HALL, hallTable } from '../../core/testing/tables'
import { openDatabase } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import { emptyFromBin, emptyOldBin, listBin, takeFromBin } from './bin'
import { deleteCheckpoint, getCheckpoint, insertCheckpoint, listCheckpoints } from './checkpoints'
import { deleteComparison, getComparison, insertComparison, listComparisons } from './comparisons'
import { createEnvironment, deleteEnvironment, getEnvironment, saveEnvironment } from './environments'
import { listVersions } from './versions'

const DAY = 24 * 60 * 60 * 1000
const TABLE = hallTable('Learned by heart')

let folder: string
let db: OpenDatabase
let id: string
let table: string
let comparison: string

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bin-'))
  db = await openDatabase(join(folder, 'test.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))
beforeEach(async () => {
  id = (await createEnvironment(db, HALL)).id
  await saveEnvironment(db, id, 1, { ...HALL, note: 'changed' })
  table = (await insertCheckpoint(db, id, storedTable(TABLE)))!.id
  comparison = (await insertComparison(db, id, newComparison('Which is faster')))!.id
})

const lying = async () => (await listBin(db)).filter(({ id: each }) => [id, table, comparison].includes(each))

it('keeps what was deleted, and gives it back as it was', async () => {
  await deleteCheckpoint(db, table)
  await deleteComparison(db, comparison)
  expect((await listCheckpoints(db)).map((each) => each.id)).not.toContain(table)
  expect(await getCheckpoint(db, table)).toBeUndefined()
  expect(await listComparisons(db, id)).toEqual([])
  expect(await getComparison(db, comparison)).toBeUndefined()
  expect((await lying()).map(({ kind, name, of }) => [kind, name, of]).sort()).toEqual([
    ['comparison', 'Which is faster', 'Hall'],
    ['table', 'Learned by heart', 'Hall'],
  ])
  expect(await takeFromBin(db, 'table', table)).toBe(true)
  expect(await takeFromBin(db, 'comparison', comparison)).toBe(true)
  expect(await takeFromBin(db, 'comparison', comparison)).toBe(false)
  expect(await getCheckpoint(db, table)).toEqual(TABLE)
  expect((await listComparisons(db, id)).map((each) => each.id)).toEqual([comparison])
  expect(await lying()).toEqual([])
})

it('an environment takes with it, and brings back, all that belongs to it', async () => {
  await deleteEnvironment(db, id)
  expect((await listCheckpoints(db)).map((each) => each.id)).not.toContain(table)
  expect((await lying()).map(({ kind }) => kind)).toEqual(['environment'])
  expect(await takeFromBin(db, 'environment', id)).toBe(true)
  expect((await listCheckpoints(db)).map((each) => each.id)).toContain(table)
  expect(await listVersions(db, id)).toHaveLength(1)
})

it('deletes for good only what lies in it, with all that belongs to it', async () => {
  expect(await emptyFromBin(db, 'environment', id)).toBe(false)
  expect(await getEnvironment(db, id)).toBeDefined()
  await deleteEnvironment(db, id)
  expect(await emptyFromBin(db, 'environment', id)).toBe(true)
  expect(await takeFromBin(db, 'environment', id)).toBe(false)
  expect(await getCheckpoint(db, table)).toBeUndefined()
  expect(await getComparison(db, comparison)).toBeUndefined()
  expect(await listVersions(db, id)).toEqual([])
})

it('is emptied of what has lain in it for thirty days, and of nothing else', async () => {
  await deleteCheckpoint(db, table)
  const other = (await createEnvironment(db, HALL)).id
  await deleteEnvironment(db, other)
  expect(await emptyOldBin(db, new Date(Date.now() + 29 * DAY))).toBe(0)
  const gone = await emptyOldBin(db, new Date(Date.now() + 31 * DAY))
  expect(gone).toBeGreaterThanOrEqual(2)
  expect(await takeFromBin(db, 'table', table)).toBe(false)
  expect(await takeFromBin(db, 'environment', other)).toBe(false)
  expect(await getEnvironment(db, id)).toBeDefined()
})
