import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { Scene } from '../../core/lesson/scene'
import { links, type Database } from '../db/schema'
import { inTransaction } from '../db/transaction'
import { nameOnShelf } from './environments'
import { parseStored } from './stored'

/** Letters of an id. */
const LETTERS = 10

/** @returns the id of a link to what is on the screen of an environment, the same for the same; undefined where that is gone */
export async function keepLink(
  db: Database,
  environmentId: string,
  scene: Scene,
): Promise<string | undefined> {
  const text = JSON.stringify(scene)
  const hash = createHash('sha256').update(`${environmentId} ${text}`).digest()
  const id = BigInt(`0x${hash.toString('hex')}`)
    .toString(36)
    .slice(0, LETTERS)
  return inTransaction(db, async (tx) => {
    if ((await nameOnShelf(tx, environmentId)) === undefined) return undefined
    await tx
      .insert(links)
      .values({ id, environmentId, scene: text, createdAt: new Date() })
      .onConflictDoNothing()
    return id
  })
}

/** What a link of an environment stands for, to be checked against it; undefined where there is none. */
export async function getLink(db: Database, environmentId: string, id: string): Promise<unknown> {
  const [row] = await db
    .select({ scene: links.scene })
    .from(links)
    .where(and(eq(links.id, id), eq(links.environmentId, environmentId)))
  return row && parseStored(row.scene, 'link')
}
