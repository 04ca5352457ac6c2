import { pino, type Logger } from 'pino'

/** How much is logged, from nothing to each request. */
export const LOG_LEVELS = ['silent', 'error', 'warn', 'info', 'debug'] as const

// Next.js loads server modules more than once, and scripts/start.mjs logs as well: the process has one log all the same.
const shared = globalThis as { jauntyPawnLog?: Logger }

/** The log of the server: a JSON object a line, on stderr. JAUNTY_PAWN_LOG says how much; `info` tells of each request. */
export function log(): Logger {
  shared.jauntyPawnLog ??= pino(
    {
      level: process.env.JAUNTY_PAWN_LOG ?? 'warn',
      base: undefined,
      timestamp: pino.stdTimeFunctions.isoTime,
    },
    pino.destination(2),
  )
  return shared.jauntyPawnLog
}
