import Joi from 'joi'
import { ProblemError, refuse, type Problem } from '../core/problem'
import { isRemote } from './db/files'
import { LOG_LEVELS } from './log'

/** What an operator can set, by variables of the environment; docs/running.md lists them. */
export interface Config {
  /** Folder for daily copies of the database; undefined for none. */
  readonly backups?: string
  /** Daily copies that are kept. */
  readonly backupsKept: number
  /** Threads for what is to be worked out; as many as the machine has cores when left out. */
  readonly cores?: number
  /** Whether the owner has to say the pass phrase: where others can reach the server, or one was set. */
  readonly asks: boolean
  /** The pass phrase, where it was set here. */
  readonly passPhrase?: string
}

/** What the server listens on where nobody else can reach it. */
const ALONE = new Set(['127.0.0.1', '::1', 'localhost'])

const PREFIX = 'JAUNTY_PAWN_'

/** Each setting: what it may be, and a value that makes sense. */
const SETTINGS = {
  DATABASE: { rule: Joi.string().min(1), example: '/srv/jaunty-pawn/shelf.sqlite' },
  DATABASE_TOKEN: { rule: Joi.string().min(1), example: 'the token that its server gave you' },
  QUEUE: { rule: Joi.string().pattern(/^rediss?:\/\/\S+$/), example: 'redis://localhost:6379' },
  CORES: { rule: Joi.number().integer().min(1).max(1024), example: '4' },
  BACKUPS: { rule: Joi.string().min(1), example: '/srv/jaunty-pawn/backups' },
  BACKUPS_KEPT: { rule: Joi.number().integer().min(1).max(10_000).default(14), example: '14' },
  LOG: { rule: Joi.valid(...LOG_LEVELS), example: 'info' },
  PASSPHRASE: { rule: Joi.string().min(1), example: 'four words of your own' },
  // Read by scripts/serve.mjs.
  PROXIES: { rule: Joi.number().integer().min(0).max(10), example: '1' },
  // Read by scripts/guard.mjs.
  HOSTS: { rule: Joi.string().min(1), example: 'pawn.example.org, 192.168.1.7' },
} as const

const schema = Joi.object(
  Object.fromEntries(Object.entries(SETTINGS).map(([name, { rule }]) => [name, rule])),
)

/** @throws ProblemError for a variable that is not known, or whose value makes no sense */
export function readConfig(environment: Readonly<Record<string, string | undefined>>): Config {
  const own = Object.fromEntries(
    Object.entries(environment)
      .filter(([name, value]) => name.startsWith(PREFIX) && value !== undefined)
      .map(([name, value]) => [name.slice(PREFIX.length), value]),
  )
  const { error, value } = schema.validate(own, { abortEarly: false })
  if (error) throw new ProblemError(error.details.map(({ path }) => refusedSetting(String(path[0]), own)))
  if (value.BACKUPS && isRemote(value.DATABASE ?? ''))
    refuse(
      `${PREFIX}BACKUPS`,
      'The database is kept by a server, of which no copies can be made from here.',
      'Leave it out, and let that server make them.',
    )
  const { BACKUPS: backups, BACKUPS_KEPT: backupsKept, CORES: cores, PASSPHRASE: passPhrase } = value
  const asks = !ALONE.has(environment.HOST || '127.0.0.1') || !!value.HOSTS || !!value.PROXIES || !!passPhrase
  return {
    ...(backups ? { backups } : {}),
    backupsKept,
    ...(cores ? { cores } : {}),
    asks,
    ...(passPhrase ? { passPhrase } : {}),
  }
}

function refusedSetting(name: string, own: Readonly<Record<string, string | undefined>>): Problem {
  const known = (SETTINGS as Readonly<Record<string, { readonly example: string }>>)[name]
  const place = `${PREFIX}${name}`
  return known
    ? {
        place,
        // Secrets must not be shown.
        cause: /TOKEN|PASSPHRASE/.test(name)
          ? 'It makes no sense.'
          : `It is “${own[name]}”, which makes no sense here.`,
        remedy: `Write, for example, ${place}="${known.example}", or leave it out.`,
      }
    : {
        place,
        cause: 'There is no such setting.',
        remedy: `The settings are ${Object.keys(SETTINGS)
          .map((each) => PREFIX + each)
          .join(', ')}.`,
      }
}
