import type { Problem } from '../../core/problem'

interface Failure {
  readonly cause: string
  /** What to do, without the full stop. */
  readonly remedy: string
  /** Whether it may be over by itself, so that what failed is tried again. */
  readonly passes?: true
}

/** What a database that does not do what is asked means for a person, by the code of SQLite. */
const FAILURES: Readonly<Record<string, Failure>> = {
  SQLITE_BUSY: {
    cause: 'Another program holds the database.',
    remedy: 'Close the other program if it stays so',
    passes: true,
  },
  SQLITE_LOCKED: {
    cause: 'Another program holds the database.',
    remedy: 'Close the other program if it stays so',
    passes: true,
  },
  SQLITE_FULL: {
    cause: 'The disk is full.',
    remedy: 'Make room on the disk of the server',
    passes: true,
  },
  SQLITE_READONLY: {
    cause: 'The database cannot be written.',
    remedy: 'Give the server the right to write the file and its folder',
  },
  SQLITE_PERM: {
    cause: 'The database cannot be written.',
    remedy: 'Give the server the right to write the file and its folder',
  },
  SQLITE_CANTOPEN: {
    cause: 'The database cannot be opened.',
    remedy: 'Look whether the file and its folder are still there, and whether the server may use them',
  },
  SQLITE_IOERR: {
    cause: 'The disk of the server fails.',
    remedy: 'Look at the disk, then start the server again',
    passes: true,
  },
  SQLITE_CORRUPT: {
    cause: 'The database is damaged.',
    remedy: 'Stop the server and bring back a backup: docs/running.md says how',
  },
  SQLITE_NOTADB: {
    cause: 'The file is no database.',
    remedy: 'Name another file by JAUNTY_PAWN_DATABASE, or bring back a backup: docs/running.md says how',
  },
}

/** Codes of SQLite by their numbers, where a file cannot be opened. */
const OPENING: Readonly<Record<string, string>> = {
  5: 'SQLITE_BUSY',
  8: 'SQLITE_READONLY',
  10: 'SQLITE_IOERR',
  11: 'SQLITE_CORRUPT',
  13: 'SQLITE_FULL',
  14: 'SQLITE_CANTOPEN',
  26: 'SQLITE_NOTADB',
}

/** The code of SQLite that an error carries, itself or what caused it; undefined for other errors. */
export function codeOf(error: unknown): string | undefined {
  for (let each = error; each instanceof Error; each = each.cause) {
    const { code } = each as { code?: unknown }
    if (typeof code === 'string' && code.startsWith('SQLITE_')) return code
    // What cannot even be opened is told with the number alone.
    const number = /^ConnectionFailed\(.*: (\d+)"\)$/s.exec(each.message)?.[1]
    if (number) return OPENING[number] ?? 'SQLITE_CANTOPEN'
  }
  return undefined
}

/** What a server of the database does when it does not do what it should. */
const UNREACHED: Failure = {
  cause: 'The server of the database does not answer as it should.',
  remedy: 'Look whether it runs, and whether address and token are right',
  passes: true,
}

function isUnreached(error: unknown): boolean {
  for (let each = error; each instanceof Error; each = each.cause) {
    const { code = '' } = each as { code?: unknown }
    if (/^(ECONN|ENOTFOUND|ETIMEDOUT|EAI_AGAIN|UND_ERR|SERVER_ERROR|HRANA_)/.test(String(code))) return true
    if (/^(HttpServer|Response|Proto|Closed)Error$/.test(each.name) || each.message === 'fetch failed')
      return true
  }
  return false
}

/**
 * An error of the database in words; undefined for errors of the program.
 * @param serving  whether it is tried again by itself, as it is once the server has begun
 */
export function databaseProblem(error: unknown, serving = true): Problem | undefined {
  const failure = FAILURES[codeOf(error) ?? ''] ?? (isUnreached(error) ? UNREACHED : undefined)
  if (!failure) return undefined
  const { cause, remedy, passes } = failure
  const again = passes && serving ? '; it is tried again by itself' : ''
  return { place: 'database', cause, remedy: `${remedy}${again}.` }
}
