import { storedTable } from '../../hosts/node/document-tasks'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { makeCheckpoint } from '../../core/learn/checkpoint'
import { World } from '../../core/learn/world'
import { gridDocument, gridModel } from '../../core/testing/models'
import { openDatabase } from '../db/database'
import type { Database } from '../db/schema'
import { deleteCheckpoint, getCheckpoint, insertCheckpoint, listCheckpoints } from './checkpoints'
import { createEnvironment, deleteEnvironment } from './environments'

let folder: string
let db: Database

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'checkpoints-'))
  db = await openDatabase(join(folder, 'test.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))

it('keeps learned tables to the bit, lists them without their numbers, and forgets them', async () => {
  const { id } = await createEnvironment(db, { ...gridDocument(['..']), name: 'Hall' })
  const world = new World(gridModel(['..']))
  const table = Float64Array.from({ length: world.tableRows }, (_, row) => Math.sqrt(row) / 3)
  const checkpoint = makeCheckpoint(world, table, {
    name: 'first try',
    environment: 'Hall',
    method: 'sarsa',
    holds: 'action values',
    settings: { lambda: 0.5 },
    steps: 120,
    episodes: 7,
  })
  const summary = (await insertCheckpoint(db, id, storedTable(checkpoint)))!
  expect(summary).toMatchObject({
    name: 'first try',
    method: 'sarsa',
    steps: 120,
    environment: { id, name: 'Hall' },
  })
  expect(await getCheckpoint(db, summary.id)).toEqual(checkpoint)
  expect(await listCheckpoints(db)).toEqual([summary])
  expect(await insertCheckpoint(db, 'nowhere', storedTable(checkpoint))).toBeUndefined()

  const other = await createEnvironment(db, { ...gridDocument(['...']), name: 'Gone' })
  await insertCheckpoint(db, other.id, storedTable({ ...checkpoint, name: 'second' }))
  expect((await listCheckpoints(db)).map(({ name }) => name)).toEqual(['second', 'first try'])
  await deleteEnvironment(db, other.id)
  expect((await listCheckpoints(db)).map(({ name }) => name)).toEqual(['first try'])
  expect(await deleteCheckpoint(db, summary.id)).toBe(true)
  expect(await deleteCheckpoint(db, summary.id)).toBe(false)
  expect(await getCheckpoint(db, summary.id)).toBeUndefined()
})
