import { mkdirSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { drizzle } from 'drizzle-orm/libsql/sqlite3'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { loadDemoShelf } from '../demo/shelf'
import type { Database } from './schema'

/** The database file; JAUNTY_PAWN_DATABASE names another one. */
function databasePath(): string {
  return process.env.JAUNTY_PAWN_DATABASE ?? join(process.cwd(), 'data', 'jaunty-pawn.sqlite')
}

/** Opens a database file, brings its tables up to date, and puts the demo on an empty shelf. */
export async function openDatabase(path: string): Promise<Database> {
  mkdirSync(dirname(path), { recursive: true })
  const client = createClient({ url: `file:${path}` })
  // Readers do not wait for a writer, and a second process waits its turn instead of failing.
  await client.execute('PRAGMA journal_mode = WAL')
  await client.execute('PRAGMA busy_timeout = 5000')
  const database = drizzle(client)
  await migrate(database, { migrationsFolder: join(process.cwd(), 'drizzle') })
  await loadDemoShelf(database)
  return database
}

// Next.js loads server modules more than once; the process has one database all the same.
const shared = globalThis as { jauntyPawnDatabase?: Promise<Database> }

/** The database of this process, opened on first use. */
export function database(): Promise<Database> {
  shared.jauntyPawnDatabase ??= openDatabase(databasePath())
  return shared.jauntyPawnDatabase
}
