import { and, eq, inArray, isNotNull, isNull, lt } from 'drizzle-orm'
import type { BinItem, BinKind } from '../contract/bin'
import {
  checkpoints,
  comparisons,
  environments,
  exercises,
  jobChunks,
  jobs,
  lessons,
  links,
  versions,
  type Database,
} from '../db/schema'
import { inTransaction } from '../db/transaction'
import { restoreEnvironment } from './environments'
import { timeText } from './stored'

/** How long deleted things lie in the bin, in milliseconds. */
export const KEPT_DAYS = 30
const DAY = 24 * 60 * 60 * 1000

const TABLES = {
  environment: environments,
  table: checkpoints,
  comparison: comparisons,
  lesson: lessons,
  exercise: exercises,
} as const

/** What was deleted, the last one in front. What belongs to a deleted environment comes back with it. */
export async function listBin(db: Database): Promise<BinItem[]> {
  const wholes = await Promise.all(
    (['environment', 'lesson', 'exercise'] as const).map(async (kind) => {
      const table = TABLES[kind]
      const rows = await db
        .select({ id: table.id, name: table.name, deletedAt: table.deletedAt })
        .from(table)
        .where(isNotNull(table.deletedAt))
      return rows.map((row) => ({ ...row, kind, of: null }))
    }),
  )
  const parts = await Promise.all(
    (['table', 'comparison'] as const).map(async (kind) => {
      const table = TABLES[kind]
      const rows = await db
        .select({ id: table.id, name: table.name, deletedAt: table.deletedAt, of: environments.name })
        .from(table)
        .innerJoin(environments, eq(table.environmentId, environments.id))
        .where(and(isNotNull(table.deletedAt), isNull(environments.deletedAt)))
      return rows.map((row) => ({ ...row, kind }))
    }),
  )
  return [...wholes.flat(), ...parts.flat()]
    .sort((x, y) => y.deletedAt!.getTime() - x.deletedAt!.getTime())
    .map(({ deletedAt, ...item }) => ({
      ...item,
      deletedAt: timeText(deletedAt!),
      goneAt: timeText(new Date(deletedAt!.getTime() + KEPT_DAYS * DAY)),
    }))
}

/** Takes something out of the bin. @returns whether it lay there */
export async function takeFromBin(db: Database, kind: BinKind, id: string): Promise<boolean> {
  if (kind === 'environment') return restoreEnvironment(db, id)
  const table = TABLES[kind]
  return inTransaction(db, async (tx) => {
    const back = await tx
      .update(table)
      .set({ deletedAt: null })
      .where(and(eq(table.id, id), isNotNull(table.deletedAt)))
    return back.rowsAffected > 0
  })
}

/** Deletes something that lies in the bin for good, with all that belongs to it. @returns whether it lay there */
export async function emptyFromBin(db: Database, kind: BinKind, id: string): Promise<boolean> {
  const table = TABLES[kind]
  return inTransaction(db, async (tx) => {
    const found = await tx
      .select({ id: table.id })
      .from(table)
      .where(and(eq(table.id, id), isNotNull(table.deletedAt)))
    if (found.length) await forget(tx, kind, [id])
    return found.length > 0
  })
}

/** Deletes for good what has lain in the bin long enough. @returns how many things */
export async function emptyOldBin(db: Database, now = new Date()): Promise<number> {
  const until = new Date(now.getTime() - KEPT_DAYS * DAY)
  return inTransaction(db, async (tx) => {
    let gone = 0
    for (const kind of Object.keys(TABLES) as BinKind[]) {
      const table = TABLES[kind]
      const old = await tx.select({ id: table.id }).from(table).where(lt(table.deletedAt, until))
      await forget(
        tx,
        kind,
        old.map(({ id }) => id),
      )
      gone += old.length
    }
    return gone
  })
}

async function forget(tx: Database, kind: BinKind, ids: readonly string[]): Promise<void> {
  const gone = [...ids]
  if (!gone.length) return
  if (kind === 'environment') {
    const work = await tx.select({ id: jobs.id }).from(jobs).where(inArray(jobs.environmentId, gone))
    const named = work.map(({ id }) => id)
    if (named.length) await tx.delete(jobChunks).where(inArray(jobChunks.jobId, named))
    for (const table of [jobs, versions, checkpoints, comparisons, links])
      await tx.delete(table).where(inArray(table.environmentId, gone))
  }
  if (kind === 'lesson') await tx.delete(versions).where(inArray(versions.environmentId, gone))
  await tx.delete(TABLES[kind]).where(inArray(TABLES[kind].id, gone))
}
