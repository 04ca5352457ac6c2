import type { Database } from './db/schema'
import { documentWorkers } from './document-workers'
import { log } from './log'
import { countWaiting } from './repositories/environments'

/** One count at a time for a database; what comes meanwhile is met by the same one. */
const counting = new WeakMap<Database, Promise<void>>()

/** Counts, after the answer, the states of what was changed. */
export function countLater(db: Database): void {
  const before = counting.get(db) ?? Promise.resolve()
  counting.set(
    db,
    before
      .then(() => countWaiting(db, documentWorkers().patient))
      .catch((error: Error) => log().error({ err: error }, 'Counting states')),
  )
}
