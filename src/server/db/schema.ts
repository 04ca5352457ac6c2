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

/** What the server keeps of itself, by name: see server/access. */
export const settings = sqliteTable('settings', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
})

/** Classes of students. */
export const classes = sqliteTable('classes', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** What students enter by; null once the class is closed. */
  code: text('code').unique(),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  closedAt: integer('closed_at', { mode: 'timestamp_ms' }),
  /** What students follow: the environment that is on the instructor’s screen, JSON; null for nothing. */
  followed: text('followed'),
  /** What of it was shown when it was put there: scene, title and text, JSON. */
  shown: text('shown'),
})

export const students = sqliteTable(
  'students',
  {
    id: text('id').primaryKey(),
    classId: text('class_id').notNull(),
    name: text('name').notNull(),
    /** A made-up name, for standings without names. */
    alias: text('alias').notNull(),
    /** Of the token their programs show: its SHA-256; null until one is asked for. */
    token: text('token').unique(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
    /** When the instructor put them out. */
    putOutAt: integer('put_out_at', { mode: 'timestamp_ms' }),
  },
  (table) => [index('students_of_class').on(table.classId, table.createdAt)],
)

/** Tasks for classes. */
export const exercises = sqliteTable('exercises', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** The exercise with its environment, JSON. */
  content: text('content').notNull(),
  /** Counts up with every save; a save names the revision it was made from. */
  revision: integer('revision').notNull(),
  createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer('updated_at', { mode: 'timestamp_ms' }).notNull(),
  deletedAt: integer('deleted_at', { mode: 'timestamp_ms' }),
})

/** Exercises as they were handed out to a class. */
export const assignments = sqliteTable(
  'assignments',
  {
    id: text('id').primaryKey(),
    classId: text('class_id').notNull(),
    /** What lists tell of it: its name, the points of all levels, whether it has a hidden seed. */
    name: text('name').notNull(),
    points: real('points').notNull(),
    hidden: integer('hidden', { mode: 'boolean' }).notNull(),
    /** How often each student may hand in; null for any number. */
    tries: integer('tries'),
    closesAt: integer('closes_at', { mode: 'timestamp_ms' }),
    /** Whether standings show names that were made up. */
    madeUpNames: integer('made_up_names', { mode: 'boolean' }).notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
    /** When the scores on hidden seeds were shown to the class. */
    revealedAt: integer('revealed_at', { mode: 'timestamp_ms' }),
    withdrawnAt: integer('withdrawn_at', { mode: 'timestamp_ms' }),
    /** The exercise as it was then, JSON: what is scored does not change under the class. Last, as lists do not read it. */
    content: text('content').notNull(),
  },
  (table) => [index('assignments_of_class').on(table.classId, table.createdAt)],
)

/** What students handed in, also what could not be scored. */
export const handIns = sqliteTable(
  'hand_ins',
  {
    id: text('id').primaryKey(),
    assignmentId: text('assignment_id').notNull(),
    studentId: text('student_id').notNull(),
    /**
     * `waiting`, `playing` (a program plays it), `scored`, `refused` (it does not fit), `abandoned` (a program left it)
     * or `late`.
     */
    state: text('state').notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
    scoredAt: integer('scored_at', { mode: 'timestamp_ms' }),
    /** Points with the open seed and with the hidden one, for standings. */
    openPoints: real('open_points'),
    hiddenPoints: real('hidden_points'),
    /** Points of each level with the open seed, JSON. */
    levelPoints: text('level_points'),
    /** Why it was refused: problems, JSON. */
    problems: text('problems'),
    // What is long stands last: what is before it is read without it.
    /** What was handed in, as it came. */
    content: text('content').notNull(),
    /** The score with the open seed, and with the hidden one, JSON. */
    open: text('open'),
    hidden: text('hidden'),
  },
  (table) => [
    index('hand_ins_of_assignment').on(table.assignmentId, table.studentId, table.createdAt),
    index('hand_ins_of_student').on(table.studentId, table.state, table.assignmentId, table.openPoints),
    index('hand_ins_by_state').on(table.state, table.createdAt),
  ],
)

/** What a class is asked before the answer is shown. */
export const questions = sqliteTable(
  'questions',
  {
    id: text('id').primaryKey(),
    classId: text('class_id').notNull(),
    /** The question, JSON, with nothing of its answer. */
    content: text('content').notNull(),
    /** What is true, JSON; null where the instructor shows it elsewhere. */
    truth: text('truth'),
    /** `open`, `closed` or `revealed`. */
    state: text('state').notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  },
  (table) => [index('questions_of_class').on(table.classId, table.createdAt)],
)

/** What students answered: one answer each, the last one. */
export const answers = sqliteTable(
  'answers',
  {
    questionId: text('question_id').notNull(),
    studentId: text('student_id').notNull(),
    /** The number, or the place of a choice from 0. */
    value: real('value').notNull(),
    createdAt: integer('created_at', { mode: 'timestamp_ms' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.questionId, table.studentId] })],
)

/** What was changed for classes, by whom. */
export const audit = sqliteTable(
  'audit',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: integer('at', { mode: 'timestamp_ms' }).notNull(),
    /** `owner`, or the id of a student. */
    who: text('who').notNull(),
    /** The class that it concerns; null for the server itself. */
    classId: text('class_id'),
    /** What was done, in words. */
    what: text('what').notNull(),
  },
  (table) => [index('audit_by_time').on(table.at)],
)
