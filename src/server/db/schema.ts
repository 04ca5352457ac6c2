import type { Client, ResultSet } from '@libsql/client'
import type { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core'
import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'

/** What repositories work on: the database, or a transaction in it. */
export type Database = BaseSQLiteDatabase<'async', ResultSet>

/** A database with the connections it has. */
export type OpenDatabase = Database & {
  readonly $client: Client
  /** Changes have connections of their own, see `inTransaction`. */
  readonly writer: Database & { readonly $client: Client }
}

/** The environments on the shelf. A deleted one keeps its row while it lies in the bin. */
export const environments = sqliteTable('environments', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  kind: text('kind').notNull(),
  /** The environment document, JSON. */
  document: text('document').notNull(),
  /** Counts up with every save; a save names the revision it was made from. */
  revision: integer('revision').notNull(),
  /** The last revision that somebody made; those after it came of following the base. */
  edited: integer('edited').notNull().default(1),
  /** Of the compiled model; null while the document does not compile. */
  states: integer('states'),
  actions: integer('actions'),
  /** Whether they are those of the document that is here; otherwise they are being counted. */
  counted: integer('counted', { mode: 'boolean' }).notNull().default(true),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer('updated_at', { mode: 'timestamp_ms' }).notNull(),
  deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
  /** Of a variant: the environment it follows. */
  baseId: text('base_id'),
})

/** Earlier states of environments, and of lessons. */
export const versions = sqliteTable(
  'versions',
  {
    id: text('id').primaryKey(),
    /** Whose they are: an environment, or a lesson. */
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
    deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
  },
  (table) => [index('checkpoints_of_environment').on(table.environmentId, table.createdAt)],
)

/** Comparisons, in the neighbourhood of the environment they belong to. */
export const comparisons = sqliteTable(
  'comparisons',
  {
    id: text('id').primaryKey(),
    environmentId: text('environment_id').notNull(),
    name: text('name').notNull(),
    /** The comparison, JSON, without its environment. */
    content: text('content').notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
    updatedAt: integer('updated_at', { mode: 'timestamp_ms' }).notNull(),
    deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
  },
  (table) => [index('comparisons_of_environment').on(table.environmentId, table.updatedAt)],
)

/** Work of the server: the runs of a comparison. */
export const jobs = sqliteTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    environmentId: text('environment_id').notNull(),
    name: text('name').notNull(),
    /** The comparison with its environment, JSON: it says all that is to be done. */
    request: text('request').notNull(),
    state: text('state').notNull(),
    /** Larger ones come first. */
    priority: integer('priority').notNull(),
    chunks: integer('chunks').notNull(),
    /** Runs of a chunk. */
    chunkSize: integer('chunk_size').notNull(),
    /** The program that the chunks were made by. */
    program: text('program').notNull(),
    /** Why it failed; null otherwise. */
    message: text('message'),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
    finishedAt: integer('finished_at', { mode: 'timestamp_ms' }),
  },
  (table) => [index('jobs_by_state').on(table.state, table.createdAt)],
)

/** Parts of jobs that are done. */
export const jobChunks = sqliteTable(
  'job_chunks',
  {
    jobId: text('job_id').notNull(),
    /** The number of the chunk in its job, from 0. */
    number: integer('number').notNull(),
    /** Whose runs they are, see `runKey`. */
    key: text('key').notNull(),
    /** The runs, see `encodeRuns`. */
    runs: text('runs').notNull(),
    /** What it took to play them. */
    seconds: real('seconds').notNull(),
    finishedAt: integer('finished_at', { mode: 'timestamp_ms' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.number] })],
)

/** Prepared sequences of views, of any environments. */
export const lessons = sqliteTable('lessons', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** How many views it has. */
  views: integer('views').notNull(),
  /** The lesson, JSON. */
  content: text('content').notNull(),
  /** Counts up with every save; a save names the revision it was made from. */
  revision: integer('revision').notNull(),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer('updated_at', { mode: 'timestamp_ms' }).notNull(),
  deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
})

/** What addresses of views stand for: what was on the screen when one was copied. */
export const links = sqliteTable('links', {
  /** Short, and made from what it stands for. */
  id: text('id').primaryKey(),
  environmentId: text('environment_id').notNull(),
  /** The scene, JSON. */
  scene: text('scene').notNull(),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
})
