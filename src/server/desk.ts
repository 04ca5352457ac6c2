import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { createDesk, DIRECT_DESK, type Desk } from '../hosts/node/desk'

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

// Next.js loads server modules more than once; the process has two desks all the same.
const shared = globalThis as { jauntyPawnDesks?: Desks }

/** Where this process looks at documents: in threads once the server has begun, before that (as in tests) at once. */
export function desks(): Desks {
  return shared.jauntyPawnDesks ?? { front: DIRECT_DESK, back: DIRECT_DESK }
}

export function openDesks(): void {
  shared.jauntyPawnDesks ??= {
    front: createDesk(WORKER, Math.max(2, availableParallelism()), WAITING),
    back: createDesk(WORKER, 1, COUNTING),
  }
}

export async function closeDesks(): Promise<void> {
  const { front, back } = desks()
  shared.jauntyPawnDesks = undefined
  await Promise.all([front.close(), back.close()])
}
