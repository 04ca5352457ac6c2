import { is } from 'drizzle-orm'
import { SQLiteTransaction } from 'drizzle-orm/sqlite-core'
import { codeOf } from './failures'
import type { Database, OpenDatabase } from './schema'

/** How long a change waits while another program holds the database, in milliseconds. */
const PATIENCE = 5_000
/** Between two tries, in milliseconds. */
const PAUSE = 40

// Next.js loads server modules more than once; the changes to a database wait in one row all the same.
const shared = globalThis as { jauntyPawnChanges?: WeakMap<Database, Promise<unknown>> }

/**
 * Makes a change that happens as a whole or not at all. Changes of this process come one after the other; while another
 * process holds the database they wait, without holding up anything else.
 * @param db  the database, or a transaction in which all is to happen
 * @throws what the database says when it cannot be written, or is still held by another program after some seconds
 */
export function inTransaction<T>(db: Database, change: (transaction: Database) => Promise<T>): Promise<T> {
  if (is(db, SQLiteTransaction)) return change(db)
  const { writer } = db as OpenDatabase
  const waiting = (shared.jauntyPawnChanges ??= new WeakMap())
  const until = performance.now() + PATIENCE
  const turn = (waiting.get(db) ?? Promise.resolve()).then(() => patiently(writer, change, until))
  waiting.set(
    db,
    turn.catch(() => {}),
  )
  return turn
}

async function patiently<T>(
  writer: OpenDatabase['writer'],
  change: (transaction: Database) => Promise<T>,
  until: number,
): Promise<T> {
  for (;;) {
    let reason: unknown
    try {
      return await writer.transaction(async (transaction) => {
        try {
          return await change(transaction)
        } catch (error) {
          reason = error
          throw error
        }
      })
    } catch (error) {
      // A full disk ends a transaction by itself: that it cannot be taken back then is not what went wrong.
      reason ??= error
      // A statement that failed stays open in its connection, in which nothing can be committed any more. Nobody else
      // has one of the writer's.
      await writer.$client.reconnect()
      // What has begun has the database for itself: it was the beginning that failed, which a server tells with the first
      // statement.
      if (codeOf(reason) !== 'SQLITE_BUSY' || performance.now() > until) throw reason
    }
    await new Promise((resolve) => setTimeout(resolve, PAUSE))
  }
}
