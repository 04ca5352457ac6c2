import { fileURLToPath } from 'node:url'
import { resolve } from 'node:path'
import type { Command } from 'commander'
import { refuse } from '../core/problem'
import type { Terminal } from './terminal'

/** The database of this installation; JAUNTY_PAWN_DATABASE names another one. */
function shelfPath(): string {
  const { JAUNTY_PAWN_DATABASE: named } = process.env
  if (named && /^\w+:\/\//.test(named))
    refuse(
      'JAUNTY_PAWN_DATABASE',
      'The shelf is kept by a server.',
      'Let that server back it up, or export the whole shelf from the page.',
    )
  return resolve(named ?? fileURLToPath(new URL('../../data/jaunty-pawn.sqlite', import.meta.url)))
}

/** What opens databases is loaded when it is needed. */
const backups = () => import('../server/db/backup')

/** The commands for the shelf as a whole. */
export function addShelfCommands(program: Command, terminal: Terminal): void {
  program
    .command('backup')
    .description('copy the whole shelf into a new file, also while it is served')
    .argument('<file>', 'a file that is not there yet')
    .exitOverride()
    .action(async (file: string) => {
      const { backUp } = await backups()
      await backUp(shelfPath(), resolve(file))
      terminal.out(`The shelf was copied into ${file}.\n`)
    })
  program
    .command('restore')
    .description('put a backup in the place of the shelf; not while it is served')
    .argument('<file>', 'a file that a backup was written to')
    .exitOverride()
    .action(async (file: string) => {
      const { restore } = await backups()
      const before = await restore(shelfPath(), resolve(file))
      terminal.out(`The shelf is as it was in ${file}.\n`)
      if (before) terminal.out(`What was there before is in ${before}.\n`)
    })
  program
    .command('passphrase')
    .description('set the pass phrase that opens the shelf where others can reach the server')
    .exitOverride()
    .action(async () => {
      const { openDatabase, closeDatabase, databasePath } = await import('../server/db/database')
      const { setPassPhrase } = await import('../server/access/pass-phrase')
      const phrase = process.stdin.isTTY ? await askInTerminal(terminal) : await firstLine()
      const db = await openDatabase(databasePath())
      try {
        await setPassPhrase(db, phrase)
      } finally {
        await closeDatabase(db)
      }
      terminal.out('It is set. Whoever was in by the one before has to enter again.\n')
    })
}

async function askInTerminal(terminal: Terminal): Promise<string> {
  const { askPhrase } = await import('../server/access/ask')
  return askPhrase((line) => terminal.out(`${line}\n`))
}

/** The first line of what another program sends. */
async function firstLine(): Promise<string> {
  let text = ''
  for await (const part of process.stdin) text += String(part)
  return text.split(/\r?\n/)[0]
}
