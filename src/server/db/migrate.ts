import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import { readMigrationFiles } from 'drizzle-orm/migrator'
import { codeOf } from './failures'
import type { OpenDatabase } from './schema'

/** How often and how long a start waits for another one that does the same, in milliseconds. */
const TRIES = 150
const PAUSE = 100

/**
 * Brings the tables of a database up to date, in one transaction that two programs cannot have at once: the second one finds
 * nothing left to do.
 */
export async function bringUpToDate(writer: OpenDatabase['writer']): Promise<void> {
  for (let tried = 1; ; tried++)
    try {
      return await writer.transaction((tx) => migrateWithin(tx))
    } catch (error) {
      // What failed stays open in its connection.
      await writer.$client.reconnect()
      if (codeOf(error) !== 'SQLITE_BUSY' || tried === TRIES) throw error
      await new Promise((resolve) => setTimeout(resolve, PAUSE))
    }
}

/** Keeps the record that Drizzle's own migrator keeps, so that databases of before go on. */
async function migrateWithin(tx: Pick<OpenDatabase, 'run' | 'values'>): Promise<void> {
  await tx.run(
    sql`create table if not exists __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)`,
  )
  // Changes nothing, but fails where nothing can be changed: better now than with the first save.
  await tx.run(sql`delete from __drizzle_migrations where false`)
  const rows = await tx.values<[number | null]>(sql`select max(created_at) from __drizzle_migrations`)
  const latest = Number(rows[0]?.[0] ?? 0)
  for (const { folderMillis, hash, sql: statements } of readMigrationFiles({
    migrationsFolder: join(process.cwd(), 'drizzle'),
  })) {
    if (latest >= folderMillis) continue
    for (const statement of statements) await tx.run(sql.raw(statement))
    await tx.run(sql`insert into __drizzle_migrations (hash, created_at) values (${hash}, ${folderMillis})`)
  }
}
