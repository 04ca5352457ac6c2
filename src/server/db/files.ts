import { existsSync, mkdirSync, statSync } from 'node:fs'
import { dirname } from 'node:path'
import { createClient as createRemoteClient } from '@libsql/client/http'
import { createClient, type Client } from '@libsql/client/sqlite3'
import migrations from '../../../drizzle/meta/_journal.json'
import { ProblemError, refuse } from '../../core/problem'
import { databaseProblem } from './failures'

/** Whether a database is kept by a server of the libSQL protocol, and not in a file here. */
export function isRemote(address: string): boolean {
  return /^(libsql|https?):\/\//.test(address)
}

/** Connections to a database, without a look at what it is. @param address  a file, or where a server keeps it */
export function connect(address: string): Client {
  return isRemote(address)
    ? createRemoteClient({ url: address, authToken: process.env.JAUNTY_PAWN_DATABASE_TOKEN })
    : createClient({ url: `file:${address}` })
}

/**
 * A database which is there and is one of this product, or is empty yet.
 * @throws ProblemError otherwise
 */
export async function openClient(address: string): Promise<Client> {
  let client: Client | undefined
  try {
    const isNew = !isRemote(address) && prepareFile(address) === 0
    client = connect(address)
    if (!isNew) await checkContent(client, address)
    return client
  } catch (error) {
    client?.close()
    throw inWords(error, address)
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
async function checkContent(client: Client, address: string): Promise<void> {
  const place = `database ${address}`
  const { rows } = await client.execute("select name from sqlite_master where type = 'table'")
  const tables = rows.map(({ name }) => name)
  if (tables.length && !(tables.includes('environments') && tables.includes('__drizzle_migrations')))
    refuse(
      place,
      'It belongs to another program.',
      'Name another file by JAUNTY_PAWN_DATABASE; this one was left as it is.',
    )
  if (!isRemote(address)) {
    const checked = await client.execute('PRAGMA quick_check(1)')
    if (checked.rows[0]?.[0] !== 'ok')
      refuse(place, 'It is damaged.', 'Bring back a backup: docs/running.md says how. It was left as it is.')
  }
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

/** What goes wrong with a file, as a problem that names it. */
export function inWords(error: unknown, path: string): unknown {
  if (error instanceof ProblemError) return error
  const problem = databaseProblem(error, false)
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
