import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { createDesk, createDeskPool, DIRECT_DESK, type Desk, type DeskPool } from '../hosts/node/desk'

/** What the threads run: made by scripts/workers.mjs when the server starts. */
const WORKER = join(process.cwd(), '.workers', 'desk.mjs')
/** How long somebody waits for a document of theirs to be looked at, in milliseconds. */
const WAITING = 60_000
/** How long it may take to count the states of one, in milliseconds. */
const COUNTING = 5_000

interface Desks {
  /** For what somebody waits for. */
  readonly front: Desk
  /** For what has time. */
  readonly back: Desk
}

// Next.js loads server modules more than once: the process has one set of threads all the same. Desks are made anew, so
// that what they throw is of the caller's own classes.
const shared = globalThis as { jauntyPawnDesks?: { readonly front: DeskPool; readonly back: DeskPool } }

/** Where this process looks at documents: in threads once the server has begun, before that (as in tests) at once. */
export function desks(): Desks {
  const pools = shared.jauntyPawnDesks
  return pools
    ? { front: createDesk(pools.front, WAITING), back: createDesk(pools.back, COUNTING) }
    : { front: DIRECT_DESK, back: DIRECT_DESK }
}

export function openDesks(): void {
  shared.jauntyPawnDesks ??= {
    front: createDeskPool(WORKER, Math.max(2, availableParallelism())),
    back: createDeskPool(WORKER, 1),
  }
}

export async function closeDesks(): Promise<void> {
  const pools = shared.jauntyPawnDesks
  shared.jauntyPawnDesks = undefined
  await Promise.all([pools?.front.destroy(), pools?.back.destroy()])
}
