import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { gridDocument } from '../../core/testing/models'
import { createEnvironment, getEnvironment } from '../repositories/environments'
import { listEnvironments } from '../repositories/shelf-list'
import { closeDatabase, openDatabase } from './database'
import { codeOf, databaseProblem } from './failures'
import { environments, type OpenDatabase } from './schema'
import { inTransaction } from './transaction'

let folder: string
let db: OpenDatabase

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'transaction-'))
  db = await openDatabase(join(folder, 'test.sqlite'))
})
afterAll(async () => {
  await closeDatabase(db)
  rmSync(folder, { recursive: true })
})
afterEach(() => void vi.useRealTimers())

const hall = (name: string) => ({ ...gridDocument(['..']), name })

/** Another program that holds the database. @returns lets it go */
async function hold(): Promise<() => Promise<void>> {
  const other = createClient({ url: `file:${join(folder, 'test.sqlite')}` })
  const held = await other.transaction('write')
  return async () => {
    await held.rollback()
    other.close()
  }
}

describe('a change', () => {
  it('happens as a whole or not at all', async () => {
    const before = await listEnvironments(db)
    const change = inTransaction(db, async (tx) => {
      await createEnvironment(tx, hall('half'))
      throw new Error('the other half')
    })
    await expect(change).rejects.toThrow('the other half')
    expect(await listEnvironments(db)).toEqual(before)
  })

  it('waits for those before it, so that none is lost', async () => {
    const { id } = await createEnvironment(db, hall('counted'))
    const count = () =>
      inTransaction(db, async (tx) => {
        const [{ revision }] = await tx.select().from(environments).where(eq(environments.id, id))
        await Promise.resolve()
        await tx
          .update(environments)
          .set({ revision: revision + 1 })
          .where(eq(environments.id, id))
      })
    await Promise.all(Array.from({ length: 60 }, count))
    expect((await getEnvironment(db, id))?.revision).toBe(61)
  })

  it('that fails holds up none of those after it', async () => {
    const failing = inTransaction(db, () => Promise.reject(new Error('no')))
    const made = createEnvironment(db, hall('after a failure'))
    await expect(failing).rejects.toThrow('no')
    expect((await getEnvironment(db, (await made).id))?.document.name).toBe('after a failure')
  })

  it('waits while another program holds the database; reading and all else go on', async () => {
    const letGo = await hold()
    let ticks = 0
    const clock = setInterval(() => ticks++, 5)
    let made = false
    const making = createEnvironment(db, hall('patient')).then(() => (made = true))
    expect((await listEnvironments(db)).length).toBeGreaterThan(0)
    await new Promise((resolve) => setTimeout(resolve, 300))
    expect(made).toBe(false)
    await letGo()
    // The thread was not held up meanwhile: where it waits for the other program, nothing ticks at all.
    expect(ticks).toBeGreaterThan(5)
    await making
    clearInterval(clock)
    expect((await listEnvironments(db)).map(({ name }) => name)).toContain('patient')
  })

  it('gives up after some seconds, and says who is to blame', async () => {
    const letGo = await hold()
    vi.useFakeTimers()
    const making = createEnvironment(db, hall('in vain')).catch((error: unknown) => error)
    await vi.advanceTimersByTimeAsync(10_000)
    const error = await making
    vi.useRealTimers()
    await letGo()
    expect(codeOf(error)).toBe('SQLITE_BUSY')
    expect(databaseProblem(error)?.cause).toBe('Another program holds the database.')
    expect((await listEnvironments(db)).map(({ name }) => name)).not.toContain('in vain')
  })

  it('on a full disk fails in words, loses nothing, and goes on when there is room', async () => {
    const small = await openDatabase(join(folder, 'small.sqlite'))
    const before = await listEnvironments(small)
    const { $client } = small.writer
    const { rows } = await $client.execute('PRAGMA page_count')
    // Of this connection: the one after a failure has room again.
    await $client.execute(`PRAGMA max_page_count = ${Number(rows[0][0])}`)
    const large = {
      ...hall('large'),
      note: 'n'.repeat(900),
      grid: gridDocument(Array(60).fill('.'.repeat(60))).grid,
    }
    const fill = async () => {
      for (let i = 0; i < 50; i++) await createEnvironment(small, large)
    }
    const error = await fill().catch((thrown: unknown) => thrown)
    expect(databaseProblem(error)?.cause).toBe('The disk is full.')
    const kept = await listEnvironments(small)
    expect(kept.filter(({ name }) => name !== 'large')).toEqual(before)
    await fill()
    expect(await listEnvironments(small)).toHaveLength(kept.length + 50)
    await closeDatabase(small)
  })
})

it('errors of the program are no failures of the database', () => {
  expect(databaseProblem(new Error('x'))).toBeUndefined()
  expect(databaseProblem('x')).toBeUndefined()
})
