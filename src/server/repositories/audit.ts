import { desc, eq } from 'drizzle-orm'
import { audit, type Database } from '../db/schema'

/** Who changed something: `owner`, or the id of a student. */
export type Who = 'owner' | (string & {})

/** Lines that are told at the most. */
const TOLD = 500

/** Notes what is changed, within the change itself. */
export async function note(tx: Database, who: Who, classId: string | null, what: string): Promise<void> {
  await tx.insert(audit).values({ at: new Date(), who, classId, what })
}

/** What was changed for a class, the last in front. */
export async function auditOf(db: Database, classId: string) {
  return db
    .select({ at: audit.at, who: audit.who, what: audit.what })
    .from(audit)
    .where(eq(audit.classId, classId))
    .orderBy(desc(audit.id))
    .limit(TOLD)
}
