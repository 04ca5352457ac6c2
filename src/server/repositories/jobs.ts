import { and, asc, desc, eq, gt, inArray, notInArray, sql } from 'drizzle-orm'
import type { JobState } from '../contract/jobs'
import { environments, jobChunks, jobs, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'

/** Jobs that are listed at the most. */
const LISTED = 50
/** The states of jobs that are not over. */
const OPEN = ['active', 'paused'] satisfies JobState[]

export type JobRow = typeof jobs.$inferSelect
export interface ChunkRow {
  readonly jobId: string
  readonly number: number
  readonly key: string
  readonly runs: string
  readonly seconds: number
}

export async function insertJob(db: Database, row: JobRow): Promise<void> {
  await inTransaction(db, (tx) => tx.insert(jobs).values(row))
}

/** The latest jobs, the last one in front, with the names of their environments. */
export async function listJobs(db: Database): Promise<(JobRow & { readonly environmentName: string })[]> {
  const rows = await db
    .select({ job: jobs, environmentName: environments.name })
    .from(jobs)
    .innerJoin(environments, eq(jobs.environmentId, environments.id))
    .orderBy(desc(jobs.createdAt), desc(jobs.id))
    .limit(LISTED)
  return rows.map(({ job, environmentName }) => ({ ...job, environmentName }))
}

/** Jobs that are to go on after a restart, the oldest in front. */
export async function openJobs(db: Database): Promise<JobRow[]> {
  return db.select().from(jobs).where(inArray(jobs.state, OPEN)).orderBy(asc(jobs.createdAt), asc(jobs.id))
}

export async function updateJob(
  db: Database,
  id: string,
  part: Partial<Pick<JobRow, 'state' | 'priority' | 'message' | 'program' | 'finishedAt'>>,
): Promise<void> {
  await inTransaction(db, (tx) => tx.update(jobs).set(part).where(eq(jobs.id, id)))
}

export async function deleteJob(db: Database, id: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    await tx.delete(jobChunks).where(eq(jobChunks.jobId, id))
    await tx.delete(jobs).where(eq(jobs.id, id))
  })
}

/** Forgets jobs that are over and no longer listed, with what came of them. */
export async function forgetOldJobs(db: Database): Promise<void> {
  await inTransaction(db, async (tx) => {
    const old = await tx
      .select({ id: jobs.id })
      .from(jobs)
      .where(notInArray(jobs.state, OPEN))
      .orderBy(desc(jobs.createdAt), desc(jobs.id))
      .limit(1000)
      .offset(LISTED)
    for (const { id } of old) await deleteJob(tx, id)
  })
}

/** Keeps a chunk; one that is there already stays as it is. */
export async function insertChunk(db: Database, chunk: ChunkRow): Promise<void> {
  await inTransaction(db, (tx) =>
    tx
      .insert(jobChunks)
      .values({ ...chunk, finishedAt: new Date() })
      .onConflictDoNothing(),
  )
}

export async function deleteChunks(db: Database, jobId: string): Promise<void> {
  await inTransaction(db, (tx) => tx.delete(jobChunks).where(eq(jobChunks.jobId, jobId)))
}

/** The numbers of the chunks that are done, and what each took. */
export async function doneChunks(
  db: Database,
  jobId: string,
): Promise<{ readonly number: number; readonly seconds: number }[]> {
  return db
    .select({ number: jobChunks.number, seconds: jobChunks.seconds })
    .from(jobChunks)
    .where(eq(jobChunks.jobId, jobId))
}

/** How many chunks of each job are done. */
export async function countDone(db: Database, ids: readonly string[]): Promise<ReadonlyMap<string, number>> {
  if (ids.length === 0) return new Map()
  const rows = await db
    .select({ jobId: jobChunks.jobId, done: sql<number>`count(*)` })
    .from(jobChunks)
    .where(inArray(jobChunks.jobId, [...ids]))
    .groupBy(jobChunks.jobId)
  return new Map(rows.map(({ jobId, done }) => [jobId, done]))
}

/** Chunks in the order in which they were finished. @param after  the `place` of the last one that is known */
export async function readChunks(
  db: Database,
  jobId: string,
  after: number,
  limit: number,
): Promise<{ readonly place: number; readonly key: string; readonly runs: string }[]> {
  const place = sql<number>`rowid`
  return db
    .select({ place, key: jobChunks.key, runs: jobChunks.runs })
    .from(jobChunks)
    .where(and(eq(jobChunks.jobId, jobId), gt(place, after)))
    .orderBy(asc(place))
    .limit(limit)
}
