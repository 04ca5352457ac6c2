import { join } from 'node:path'
import { drizzle } from 'drizzle-orm/libsql/sqlite3'
import { loadDemoShelf } from '../demo/shelf'
import { connect, inWords, isRemote, openClient } from './files'
import { bringUpToDate } from './migrate'
import type { OpenDatabase } from './schema'

/** The database file, or the address of a server; JAUNTY_PAWN_DATABASE names another one. */
export function databasePath(): string {
  return process.env.JAUNTY_PAWN_DATABASE ?? join(process.cwd(), 'data', 'jaunty-pawn.sqlite')
}

/**
 * Opens a database, brings its tables up to date, and puts the demo on an empty shelf.
 * @throws ProblemError for what is no database of this product, or cannot be opened; nothing was changed then
 */
export async function openDatabase(address: string): Promise<OpenDatabase> {
  const client = await openClient(address)
  const writer = drizzle(connect(address))
  const database = Object.assign(drizzle(client), { writer })
  try {
    // Readers do not wait for a writer; a server sees to that itself.
    if (!isRemote(address)) await client.execute('PRAGMA journal_mode = WAL')
    await bringUpToDate(writer)
    await loadDemoShelf(database)
    return database
  } catch (error) {
    client.close()
    writer.$client.close()
    throw inWords(error, address)
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
  // A server does it by itself.
  if ($client.protocol !== 'file') return
  await $client.execute('PRAGMA wal_checkpoint(TRUNCATE)')
}

/**
 * A number that every change of the database alters, by this process or any other; null for one behind an address, which
 * has none.
 */
export async function stampOf({ $client }: Pick<OpenDatabase, '$client'>): Promise<number | null> {
  if ($client.protocol !== 'file') return null
  // It counts what other connections change; all that this process changes goes through the writer, which is one.
  const { rows } = await $client.execute('PRAGMA data_version')
  return Number(rows[0].data_version)
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
