import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core'

/** What repositories work on. */
export type Database = LibSQLDatabase

/** The environments on the shelf. A deleted one keeps its row, so that deleting can be undone. */
export const environments = sqliteTable('environments', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  kind: text('kind').notNull(),
  /** The environment document, JSON. */
  document: text('document').notNull(),
  /** Counts up with every save; a save names the revision it was made from. */
  revision: integer('revision').notNull(),
  /** Of the compiled model; null while the document does not compile. */
  states: integer('states'),
  actions: integer('actions'),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer('updated_at', { mode: 'timestamp_ms' }).notNull(),
  deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
})
