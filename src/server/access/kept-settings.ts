import { eq } from 'drizzle-orm'
import { settings, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'

/** What the server keeps of itself. */
export type KeptSetting =
  /** The pass phrase, as argon2id hashes it. */
  | 'pass-phrase'
  /** What cookies are sealed with. */
  | 'seal'
  /** Of the token that the owner’s programs show: its SHA-256. */
  | 'owner-token'

export async function keptSetting(db: Database, name: KeptSetting): Promise<string | undefined> {
  const [row] = await db.select({ value: settings.value }).from(settings).where(eq(settings.name, name))
  return row?.value
}

export async function keepSetting(db: Database, name: KeptSetting, value: string): Promise<void> {
  await inTransaction(db, (tx) =>
    tx.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }),
  )
}

/** What is kept under a name; made now where there is nothing yet, and the same for all who ask. */
export async function settingOr(db: Database, name: KeptSetting, make: () => string): Promise<string> {
  const found = await keptSetting(db, name)
  if (found !== undefined) return found
  await inTransaction(db, (tx) => tx.insert(settings).values({ name, value: make() }).onConflictDoNothing())
  return (await keptSetting(db, name))!
}
