import { existsSync, mkdirSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { createClient, type Client } from '@libsql/client/sqlite3'
import { drizzle } from 'drizzle-orm/libsql/sqlite3'
import { migrate } from 'drizzle-orm/libsql/migrator'
import migrations from '../../../drizzle/meta/_journal.json'
import { ProblemError, refuse } from '../../core/problem'
import { loadDemoShelf } from '../demo/shelf'
import { codeOf, databaseProblem } from './failures'
import type { Database } from './schema'

/** A database with the connections it has. */
export type OpenDatabase = Database & {
  readonly $client: Client
  /** Changes have connections of their own, see `inTransaction`. */
  readonly writer: Database & { readonly $client: Client }
}

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

/**
 * The file of a database, which is there and is one of this product, or is not there yet.
 * @throws ProblemError otherwise
 */
export async function openClient(path: string): Promise<Client> {
  let client: Client | undefined
  try {
    const size = prepareFile(path)
    client = createClient({ url: `file:${path}` })
    if (size) await checkContent(client, `database ${path}`)
    return client
  } catch (error) {
    client?.close()
    throw inWords(error, path)
  }
}

/**
 * Makes the folder of a database, if it is not there.
 * @returns the size of the file, in bytes; 0 where it is not there yet
 * @throws ProblemError where no file can be
 */
export function prepareFile(path: string): number {
  try {
    const stat = statSync(path, { throwIfNoEntry: false })
    if (stat && !stat.isFile())
      refuse(
        `database ${path}`,
        'It is a folder, or something else that is no file.',
        'Name a file by JAUNTY_PAWN_DATABASE.',
      )
    makeFolder(dirname(path))
    return stat?.size ?? 0
  } catch (error) {
    throw inWords(error, path)
  }
}

/** Not `recursive`: that never comes back where the system lets nobody make folders, as under /proc. */
export function makeFolder(path: string): void {
  if (existsSync(path)) return
  if (dirname(path) !== path) makeFolder(dirname(path))
  mkdirSync(path)
}

/** @throws ProblemError for a database that is damaged, of another program, or of a newer version */
async function checkContent(client: Client, place: string): Promise<void> {
  const { rows } = await client.execute("select name from sqlite_master where type = 'table'")
  const tables = rows.map(({ name }) => name)
  if (tables.length && !(tables.includes('environments') && tables.includes('__drizzle_migrations')))
    refuse(
      place,
      'It belongs to another program.',
      'Name another file by JAUNTY_PAWN_DATABASE; this one was left as it is.',
    )
  const checked = await client.execute('PRAGMA quick_check(1)')
  if (checked.rows[0]?.[0] !== 'ok')
    refuse(place, 'It is damaged.', 'Bring back a backup: docs/running.md says how. It was left as it is.')
  if (!tables.length) return
  const [{ latest }] = (await client.execute('select max(created_at) as latest from __drizzle_migrations'))
    .rows
  if (Number(latest) > Math.max(...migrations.entries.map(({ when }) => when)))
    refuse(
      place,
      'It was written by a newer version of Jaunty Pawn.',
      'Start that version, or name another file by JAUNTY_PAWN_DATABASE; this one was left as it is.',
    )
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

/** What goes wrong with a file, as a problem that names it. */
export function inWords(error: unknown, path: string): unknown {
  if (error instanceof ProblemError) return error
  const problem = databaseProblem(error)
  if (problem) return new ProblemError([{ ...problem, place: `database ${path}` }])
  const { code, syscall } = error as NodeJS.ErrnoException
  if (!code || !syscall) return error
  return new ProblemError([
    {
      place: `database ${path}`,
      cause: `Its folder cannot be made (${code}).`,
      remedy: 'Name a file by JAUNTY_PAWN_DATABASE in a folder that the server may write.',
    },
  ])
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
