import type { ResultSet } from '@libsql/client'
import type { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core'
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core'

/** What repositories work on: the database, or a transaction in it. */
export type Database = BaseSQLiteDatabase<'async', ResultSet>

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
  /** Of a variant: the environment it follows. */
  baseId: text('base_id'),
})

/** Earlier states of environments. */
export const versions = sqliteTable(
  'versions',
  {
    id: text('id').primaryKey(),
    environmentId: text('environment_id').notNull(),
    /** Given by hand; null for what was kept automatically. */
    name: text('name'),
    document: text('document').notNull(),
    /** When the environment was last changed before it was kept. */
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  },
  (table) => [index('versions_of_environment').on(table.environmentId, table.createdAt)],
)

/** Learned tables that were kept. */
export const checkpoints = sqliteTable(
  'checkpoints',
  {
    id: text('id').primaryKey(),
    environmentId: text('environment_id').notNull(),
    name: text('name').notNull(),
    method: text('method').notNull(),
    holds: text('holds').notNull(),
    steps: integer('steps').notNull(),
    episodes: integer('episodes').notNull(),
    /** The checkpoint, JSON. */
    content: text('content').notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  },
  (table) => [index('checkpoints_of_environment').on(table.environmentId, table.createdAt)],
)
