import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'

/** How often something may be done: so many times in so many seconds. */
interface Limit {
  readonly points: number
  readonly duration: number
}

/**
 * What is limited, and for whom. A whole class may come from one address: what counts by address is only what goes wrong, or
 * what nobody does who learns.
 */
const LIMITS = {
  /** Wrong pass phrases, by address and from everywhere. */
  phrase: { points: 10, duration: 60 },
  phraseOfAll: { points: 100, duration: 60 },
  /**
   * Wrong class codes, by address and from everywhere: there are 900 million codes, so that so many guesses find none in a
   * term, and nobody closes the door for all others of the same network by a few.
   */
  code: { points: 300, duration: 60 },
  codeOfAll: { points: 3_000, duration: 60 },
  /** Students who enter, by address. */
  entering: { points: 400, duration: 60 },
  /** Requests of those who are in no class and know no pass phrase, by address. */
  stranger: { points: 600, duration: 10 },
  /** Requests of a student. */
  student: { points: 200, duration: 10 },
  /** Requests of a student’s program. */
  program: { points: 2_000, duration: 1 },
  /** What a student hands in. */
  handIn: { points: 20, duration: 60 },
  /** Milliseconds for which hand-ins of a student are scored. */
  scoring: { points: 600_000, duration: 3600 },
} as const satisfies Readonly<Record<string, Limit>>

export type LimitName = keyof typeof LIMITS

// Next.js loads server modules more than once; what was counted is counted for all of them.
const shared = globalThis as { jauntyPawnLimits?: Map<LimitName, RateLimiterMemory> }

function limiter(name: LimitName): RateLimiterMemory {
  const all = (shared.jauntyPawnLimits ??= new Map())
  if (!all.has(name)) all.set(name, new RateLimiterMemory({ ...LIMITS[name], keyPrefix: name }))
  return all.get(name)!
}

/**
 * Counts one more for somebody, or so many, a whole number.
 * @returns the seconds they have to wait where it is too much; 0 otherwise
 */
export async function countFor(name: LimitName, whom: string, many = 1): Promise<number> {
  try {
    await limiter(name).consume(whom, many)
    return 0
  } catch (error) {
    if (error instanceof RateLimiterRes) return Math.max(1, Math.ceil(error.msBeforeNext / 1000))
    throw error
  }
}

/** The seconds somebody has to wait until more is counted; 0 for none. */
export async function waitOf(name: LimitName, whom: string): Promise<number> {
  const found = await limiter(name).get(whom)
  return found && found.remainingPoints <= 0 ? Math.max(1, Math.ceil(found.msBeforeNext / 1000)) : 0
}

/** Counts one less: what was counted before it was looked at has turned out right. */
export async function takeBack(name: LimitName, whom: string): Promise<void> {
  await limiter(name).reward(whom)
}
