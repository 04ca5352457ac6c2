import { describeProblem, ProblemError } from '../core/problem'
import { askPhrase } from './access/ask'
import { admit, type Asked, type Verdict } from './access/gate'
import { needPassPhrase } from './access/pass-phrase'
import { readConfig, type Config } from './config'
import { countLater } from './counting'
import { copyOfTheDay } from './db/backup'
import { closeDatabase, database, databasePath, stampOf, writeBack } from './db/database'
import { isRemote, openClient } from './db/files'
import type { OpenDatabase } from './db/schema'
import { lockShelf } from './db/lock'
import { answerDirectly } from './direct'
import { stopDocumentWorkers, startDocumentWorkers } from './document-workers'
import { stopJobs } from './jobs/jobs'
import { log } from './log'
import { scoreLater } from './scoring'
import { giveUpPlaying } from './repositories/hand-ins'
import { emptyOldBin } from './repositories/bin'
import { bringStragglersAlong, stampOfEnvironment } from './repositories/environments'

/** How often what stands beside the database is written back into it, in milliseconds. */
const WRITING_BACK = 60_000
/** How often the bin and the daily copy are looked after, in milliseconds. */
const LOOKING_AFTER = 60 * 60 * 1000

/** What scripts/start.mjs and the server tell each other. */
const shared = globalThis as {
  /** Where the server is, as it is told to people. */
  jauntyPawnAddress?: string
  /** Called when the shelf can be served. */
  jauntyPawnStarted?: () => void
  /** A stamp that every change of an environment, or without an id of anything, alters; null where there is none. */
  jauntyPawnStamp?: (id?: string) => Promise<string | number | null>
  /** What becomes of a request. */
  jauntyPawnGate?: (asked: Asked, own: boolean) => Promise<Verdict>
  /** Answers what need not go through Next.js; false for all else. */
  jauntyPawnDirect?: typeof answerDirectly
  /** Ends what is going on, and leaves everything in the database file. */
  jauntyPawnStop?: () => Promise<void>
}

/** Begins to serve the shelf; where that cannot be, says why in a line, and ends the process. */
export async function startServer(): Promise<void> {
  try {
    const config = readConfig(process.env)
    log().debug({ config: { ...config, passPhrase: undefined } }, 'Starting')
    const path = databasePath()
    // What is not ours is left alone, without a lock beside it.
    ;(await openClient(path)).close()
    const giveBack = isRemote(path)
      ? async () => {}
      : await lockShelf(path, shared.jauntyPawnAddress ?? 'an address unknown')
    startDocumentWorkers(config.cores)
    const db = await database()
    const { asks, passPhrase } = config
    if (asks) await needPassPhrase(db, passPhrase, process.stdin.isTTY ? askInTerminal : null)
    shared.jauntyPawnGate = (asked, own) => admit(db, asks, asked, own)
    shared.jauntyPawnDirect = answerDirectly
    await mend(db)
    countLater(db)
    await giveUpPlaying(db)
    scoreLater(db)
    const stopCare = takeCare(db, config)
    shared.jauntyPawnStamp = (id) => (id === undefined ? stampOf(db) : stampOfEnvironment(db, id))
    shared.jauntyPawnStop = async () => {
      stopCare()
      await stopJobs()
      await stopDocumentWorkers()
      await closeDatabase(db)
      await giveBack()
    }
    shared.jauntyPawnStarted?.()
  } catch (error) {
    if (!(error instanceof ProblemError)) console.error(error)
    else for (const problem of error.problems) console.error(describeProblem(problem))
    process.exit(1)
  }
}

function askInTerminal(): Promise<string> {
  console.log('Other machines can reach this server. Choose a pass phrase for the instructor.')
  return askPhrase(console.log)
}

/** What an older version may have left apart when it was ended at the wrong moment. */
async function mend(db: OpenDatabase): Promise<void> {
  const names = await bringStragglersAlong(db)
  if (names.length)
    console.error(
      `These variants had not followed their base when the server was ended, and do now: ${names.join(', ')}. What they were is kept as a version.`,
    )
}

/** Looks after the database as long as it is served. @returns ends that */
function takeCare(db: OpenDatabase, { backups, backupsKept }: Config): () => void {
  const look = async () => {
    await emptyOldBin(db)
    if (backups) await copyOfTheDay(db.$client, backups, backupsKept)
  }
  const attempt = (work: () => Promise<void>) => () =>
    void work().catch((error: Error) => log().error({ err: error }, 'Looking after the database'))
  const timers = [
    setInterval(
      attempt(() => writeBack(db)),
      WRITING_BACK,
    ),
    setInterval(attempt(look), LOOKING_AFTER),
  ]
  attempt(look)()
  for (const timer of timers) timer.unref()
  return () => timers.forEach(clearInterval)
}
