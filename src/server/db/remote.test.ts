import { mkdtempSync, rmSync } from 'node:fs'
import type { Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gridDocument } from '../../core/testing/models'
import { emptyFromBin, listBin, takeFromBin } from '../repositories/bin'
import {
  createEnvironment,
  createVariant,
  deleteEnvironment,
  getEnvironment,
  saveEnvironment,
} from '../repositories/environments'
import { listEnvironments } from '../repositories/shelf-list'
import { listVersions } from '../repositories/versions'
import { serveDatabase } from '../testing/database-server'
import { closeDatabase, openDatabase } from './database'
import { databaseProblem } from './failures'
import type { OpenDatabase } from './schema'
import { inTransaction } from './transaction'

const TOKEN = 'a-token'
let folder: string
let server: Server
let address: string
/** Two servers of the application, which begin at once on a database that is empty. */
let one: OpenDatabase
let other: OpenDatabase

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'remote-'))
  process.env.JAUNTY_PAWN_DATABASE_TOKEN = TOKEN
  ;({ server, address } = await serveDatabase(join(folder, 'kept.sqlite'), TOKEN))
  ;[one, other] = await Promise.all([openDatabase(address), openDatabase(address)])
})
afterAll(async () => {
  delete process.env.JAUNTY_PAWN_DATABASE_TOKEN
  await closeDatabase(one)
  await closeDatabase(other)
  server.closeAllConnections()
  server.close()
  rmSync(folder, { recursive: true })
})

const hall = (part: object = {}) => ({ ...gridDocument(['..', '..']), name: 'Hall', ...part })

describe('a database that a server keeps', () => {
  it('has one set of demos and tables, though two began at once', async () => {
    const names = (await listEnvironments(one)).map(({ name }) => name)
    expect(names).toHaveLength(16)
    expect(new Set(names).size).toBe(16)
    expect(await listEnvironments(other)).toEqual(await listEnvironments(one))
  })

  it('keeps what one saves for the other, with versions, variants and the bin', async () => {
    const { id } = await createEnvironment(one, hall())
    const variant = (await createVariant(other, id, 'Hall, variant'))!
    expect(await saveEnvironment(other, id, 1, hall({ discount: 0.5 }))).toMatchObject({ outcome: 'saved' })
    expect((await getEnvironment(one, id))?.document).toMatchObject({ discount: 0.5 })
    expect((await getEnvironment(one, variant.id))?.document).toMatchObject({ discount: 0.5 })
    expect(await listVersions(one, id)).toHaveLength(1)
    expect(await saveEnvironment(one, id, 1, hall())).toMatchObject({ outcome: 'stale' })
    await deleteEnvironment(one, variant.id)
    expect((await listBin(other)).map((each) => each.id)).toEqual([variant.id])
    expect(await takeFromBin(other, 'environment', variant.id)).toBe(true)
    await deleteEnvironment(one, variant.id)
    expect(await emptyFromBin(other, 'environment', variant.id)).toBe(true)
  })

  it('happens as a whole or not at all', async () => {
    const before = await listEnvironments(one)
    const change = inTransaction(one, async (tx) => {
      await createEnvironment(tx, hall({ name: 'half' }))
      throw new Error('the other half')
    })
    await expect(change).rejects.toThrow('the other half')
    expect(await listEnvironments(other)).toEqual(before)
  })

  it('loses nothing in a thousand competing saves', { timeout: 300_000 }, async () => {
    const { id } = await createEnvironment(one, hall({ note: '0' }))
    /** Adds one to the number in the note, until it could be saved. */
    const addOne = async (db: OpenDatabase) => {
      for (;;) {
        const { revision, document } = (await getEnvironment(db, id))!
        const next = { ...document, note: String(Number(document.note) + 1) }
        if ((await saveEnvironment(db, id, revision, next)).outcome === 'saved') return
      }
    }
    const total = process.env.LONG ? 1000 : 60
    const work = async (db: OpenDatabase) => {
      for (let i = 0; i < total / 4; i++) await addOne(db)
    }
    await Promise.all([work(one), work(other), work(one), work(other)])
    expect(await getEnvironment(one, id)).toMatchObject({
      revision: total + 1,
      document: { note: String(total) },
    })
  })

  it('that cannot be reached, or wants another token, is told in words', async () => {
    await expect(openDatabase('http://127.0.0.1:9')).rejects.toThrow(
      'database http://127.0.0.1:9: The server of the database does not answer as it should.',
    )
    process.env.JAUNTY_PAWN_DATABASE_TOKEN = 'wrong'
    await expect(openDatabase(address)).rejects.toThrow(/address and token are right/)
    process.env.JAUNTY_PAWN_DATABASE_TOKEN = TOKEN
  })

  it('that goes away later is told in words as well', async () => {
    const second = await serveDatabase(join(folder, 'second.sqlite'), TOKEN)
    const db = await openDatabase(second.address)
    second.server.closeAllConnections()
    await new Promise((resolve) => second.server.close(resolve))
    for (const work of [() => listEnvironments(db), () => createEnvironment(db, hall())]) {
      const error = await work().catch((thrown: unknown) => thrown)
      expect(databaseProblem(error)?.cause).toBe('The server of the database does not answer as it should.')
    }
    await closeDatabase(db)
  })
})
