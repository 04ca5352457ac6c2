import { createHash } from 'node:crypto'
import { eq } from 'drizzle-orm'
import type { Following, Shown } from './contract/questions'
import { classes, type Database } from './db/schema'
import { inTransaction } from './db/transaction'
import { note } from './repositories/audit'
import { parseStored } from './repositories/stored'

interface Followed {
  readonly name: string
  /** The environment, JSON. */
  readonly document: string
  shown: Shown
}

// Next.js loads server modules more than once. What changes with every step is kept here alone; a start begins with what was
// put there first.
const shared = globalThis as { jauntyPawnFollowed?: Map<string, Promise<Followed | null>> }
const all = () => (shared.jauntyPawnFollowed ??= new Map<string, Promise<Followed | null>>())

function followedOf(db: Database, classId: string): Promise<Followed | null> {
  let found = all().get(classId)
  if (!found) {
    found = stored(db, classId)
    found.catch(() => all().delete(classId))
    all().set(classId, found)
  }
  return found
}

async function stored(db: Database, classId: string): Promise<Followed | null> {
  const [row] = await db
    .select({ document: classes.followed, shown: classes.shown })
    .from(classes)
    .where(eq(classes.id, classId))
  if (!row?.document || !row.shown) return null
  return {
    name: nameOf(row.document),
    document: row.document,
    // What was kept before there were covers says nothing of them.
    shown: { covers: [], ...(parseStored(row.shown, 'class') as Omit<Shown, 'covers'>) },
  }
}

function nameOf(document: string): string {
  return createHash('sha256').update(document).digest('base64url').slice(0, 16)
}

/** What students follow now; null for nothing. */
export async function followingOf(db: Database, classId: string): Promise<Following | null> {
  const found = await followedOf(db, classId)
  return found && { document: found.name, ...found.shown }
}

/** The environment that students follow, JSON. @returns undefined where that is another one, or nothing */
export async function followedDocument(
  db: Database,
  classId: string,
  name: string,
): Promise<string | undefined> {
  const found = await followedOf(db, classId)
  return found?.name === name ? found.document : undefined
}

/** Lets students follow an environment, or nothing. @returns its name */
export async function follow(
  db: Database,
  classId: string,
  what: { readonly document: string; readonly shown: Shown } | null,
): Promise<string> {
  await inTransaction(db, async (tx) => {
    await tx
      .update(classes)
      .set({ followed: what && what.document, shown: what && JSON.stringify(what.shown) })
      .where(eq(classes.id, classId))
    await note(
      tx,
      'owner',
      classId,
      what ? `Let the class follow “${what.shown.title}”.` : 'Ended following.',
    )
  })
  const name = what ? nameOf(what.document) : ''
  all().set(classId, Promise.resolve(what && { name, ...what }))
  return name
}

/** What is shown of the environment that is followed. @returns whether it is followed */
export async function show(db: Database, classId: string, name: string, shown: Shown): Promise<boolean> {
  const found = await followedOf(db, classId)
  if (found?.name !== name) return false
  found.shown = shown
  return true
}
