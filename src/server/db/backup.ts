import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import type { Client } from '@libsql/client'
import { ProblemError, refuse } from '../../core/problem'
import { makeFolder, openClient } from './files'
import { databaseProblem } from './failures'
import { lockShelf } from './lock'

/**
 * Copies a database into a new file, all of it, while others may read and write it.
 * @throws ProblemError where the file is there already, or cannot be written
 */
export async function copyInto(client: Client, file: string): Promise<void> {
  if (existsSync(file)) refuse(`file ${file}`, 'It is there already.', 'Name a file that is not there yet.')
  try {
    makeFolder(dirname(file))
    await client.execute({ sql: 'vacuum into ?', args: [file] })
  } catch (error) {
    rmSync(file, { force: true })
    const problem = databaseProblem(error)
    throw new ProblemError([
      {
        place: `file ${file}`,
        cause: problem?.cause ?? 'It cannot be written.',
        remedy: 'Name a file in a folder that may be written and has room.',
      },
    ])
  }
}

/** Copies the database of a path into a new file. @throws ProblemError, see {@link copyInto} */
export async function backUp(path: string, file: string): Promise<void> {
  if (!existsSync(path))
    refuse(`database ${path}`, 'It is not there.', 'Name its file by JAUNTY_PAWN_DATABASE.')
  const client = await openClient(path)
  try {
    await copyInto(client, file)
  } finally {
    client.close()
  }
}

/**
 * Puts a backup in the place of a database that nobody serves. It is checked first.
 * @returns the file to which that was moved which was there before; null where nothing was
 * @throws ProblemError for what is no backup, or while the database is served; nothing was changed then
 */
export async function restore(path: string, file: string, now = new Date()): Promise<string | null> {
  if (!existsSync(file))
    refuse(`file ${file}`, 'It is not there.', 'Name a file that a backup was written to.')
  const backup = await openClient(file)
  const incoming = `${path}.incoming`
  try {
    const giveBack = await lockShelf(path, 'a restore')
    try {
      rmSync(incoming, { force: true })
      await copyInto(backup, incoming)
      const before = existsSync(path) ? `${path}.before-${stampOf(now)}` : null
      if (before) await backUp(path, before)
      for (const part of ['', '-wal', '-shm']) rmSync(path + part, { force: true })
      renameSync(incoming, path)
      return before
    } finally {
      rmSync(incoming, { force: true })
      await giveBack()
    }
  } finally {
    backup.close()
  }
}

/** `2026-11-28T20-31-07`: sorts as it should, and is a name everywhere. */
function stampOf(time: Date): string {
  return time.toISOString().slice(0, 19).replaceAll(':', '-')
}

/** A daily copy: `shelf-2026-11-28.sqlite`. */
const DAILY = /^shelf-\d{4}-\d{2}-\d{2}\.sqlite$/

/**
 * Writes the copy of a day, unless it is there, and deletes the oldest copies beyond the number to keep.
 * @returns the file of the copy; null where it was there already
 */
export async function copyOfTheDay(
  client: Client,
  folder: string,
  kept: number,
  now = new Date(),
): Promise<string | null> {
  makeFolder(folder)
  const file = join(folder, `shelf-${now.toISOString().slice(0, 10)}.sqlite`)
  const isNew = !existsSync(file)
  if (isNew) {
    // Under its name only when it is whole.
    const begun = `${file}.begun`
    rmSync(begun, { force: true })
    await copyInto(client, begun)
    renameSync(begun, file)
  }
  const copies = readdirSync(folder)
    .filter((name) => DAILY.test(name))
    .sort()
  for (const old of copies.slice(0, Math.max(0, copies.length - kept)))
    if (old !== basename(file)) rmSync(join(folder, old))
  return isNew ? file : null
}
