import { createClient, type Client } from '@libsql/client/sqlite3'
import { refuse } from '../../core/problem'
import { inWords, prepareFile } from './files'
import { codeOf } from './failures'

/**
 * Takes the right to serve a database, which one process has at a time. The system takes it back when that process ends,
 * however it ends: it is a lock on a file of its own beside the database, in which stands who has it.
 * @param address  where the shelf is served, for those who come later
 * @returns gives the right back
 * @throws ProblemError when another process has it
 */
export async function lockShelf(path: string, address: string): Promise<() => Promise<void>> {
  prepareFile(path)
  const client = openLock(path)
  try {
    await client.execute('create table if not exists holder (pid integer not null, address text not null)')
    await client.batch(
      ['delete from holder', { sql: 'insert into holder values (?, ?)', args: [process.pid, address] }],
      'write',
    )
    const held = await client.transaction('write')
    return async () => {
      await held.rollback()
      client.close()
    }
  } catch (error) {
    if (codeOf(error) !== 'SQLITE_BUSY') throw inWords(error, path)
    const { rows } = await client.execute('select pid, address from holder')
    client.close()
    const [holder] = rows
    return refuse(
      `database ${path}`,
      holder
        ? `It is served already, at ${String(holder.address)} by process ${String(holder.pid)}.`
        : 'Another process is just beginning to serve it.',
      'Use that one, stop it first, or name another file by JAUNTY_PAWN_DATABASE.',
    )
  }
}

function openLock(path: string): Client {
  try {
    return createClient({ url: `file:${path}.lock` })
  } catch (error) {
    throw inWords(error, path)
  }
}
