import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { drizzle } from 'drizzle-orm/libsql/sqlite3'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { loadDemoShelf } from '../demo/shelf'
import { codeOf } from './failures'
import { inWords, openClient } from './files'
import type { OpenDatabase } from './schema'

/** The database file; JAUNTY_PAWN_DATABASE names another one. */
export function databasePath(): string {
  return process.env.JAUNTY_PAWN_DATABASE ?? join(process.cwd(), 'data', 'jaunty-pawn.sqlite')
}

/**
 * Opens a database file, brings its tables up to date, and puts the demo on an empty shelf.
 * @throws ProblemError for what is no database of this product, or cannot be opened; nothing was changed then
 */
export async function openDatabase(path: string): Promise<OpenDatabase> {
  const client = await openClient(path)
  const writer = drizzle(createClient({ url: `file:${path}` }))
  const database = Object.assign(drizzle(client), { writer })
  try {
    // Readers do not wait for a writer.
    await database.$client.execute('PRAGMA journal_mode = WAL')
    await whenFree(() => migrate(database, { migrationsFolder: join(process.cwd(), 'drizzle') }))
    await loadDemoShelf(database)
    return database
  } catch (error) {
    client.close()
    writer.$client.close()
    throw inWords(error, path)
  }
}

/** How often and how long a start waits for another one that holds the file, in milliseconds. */
const TRIES = 100
const PAUSE = 100

async function whenFree(work: () => Promise<void>): Promise<void> {
  for (let tried = 1; ; tried++)
    try {
      return await work()
    } catch (error) {
      if (codeOf(error) !== 'SQLITE_BUSY' || tried === TRIES) throw error
      await new Promise((resolve) => setTimeout(resolve, PAUSE))
    }
}

/** Writes everything back into the file itself, so that a copy of it has it all, and closes it. */
export async function closeDatabase({ $client, writer }: OpenDatabase): Promise<void> {
  if ($client.closed) return
  writer.$client.close()
  await writeBack({ $client }).catch(() => {})
  $client.close()
}

/** Writes what stands beside the file back into it. */
export async function writeBack({ $client }: Pick<OpenDatabase, '$client'>): Promise<void> {
  await $client.execute('PRAGMA wal_checkpoint(TRUNCATE)')
}

// Next.js loads server modules more than once; the process has one database all the same.
const shared = globalThis as { jauntyPawnDatabase?: Promise<OpenDatabase> }

/** The database of this process, opened on first use. */
export function database(): Promise<OpenDatabase> {
  shared.jauntyPawnDatabase ??= openDatabase(databasePath()).catch((error: unknown) => {
    // The next one who asks tries again.
    shared.jauntyPawnDatabase = undefined
    throw error
  })
  return shared.jauntyPawnDatabase
}
