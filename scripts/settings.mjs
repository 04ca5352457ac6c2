// Where the server is to listen, and what is asked for by an option: read before anything else is done, and told in a line
// where it cannot be.
import './node-version.mjs'
import { readFileSync } from 'node:fs'
import { knownNames } from './guard.mjs'

tell(process.argv[2])

/** Only this machine, unless HOST says otherwise (0.0.0.0 for a whole class): then it asks for a pass phrase. */
export const host = process.env.HOST || '127.0.0.1'
/** The names under which the server may be addressed. */
export const names = knownNames(host, process.env.JAUNTY_PAWN_HOSTS)
/** Proxies in front of the server, which say where a request came from. */
export const proxies = Number(process.env.JAUNTY_PAWN_PROXIES ?? 0)
/** The first port that is tried. */
export const wanted = readPort(process.env.PORT || '3000')

/** Tells what was asked for by an option, and ends. */
function tell(option) {
  if (!option) return
  const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8'))
  if (option === '--version') console.log(version)
  else if (option === '--help')
    console.log(
      `npm start           installs what is missing, builds, and serves the shelf
npm run build       does all of that but serve, and puts what serving needs into the folder release
npm run serve       serves what was built, here or in a copy of that folder
npm start -- --version

Set by variables of the environment: PORT, HOST, JAUNTY_PAWN_HOSTS, JAUNTY_PAWN_DATABASE, JAUNTY_PAWN_BACKUPS,
JAUNTY_PAWN_BACKUPS_KEPT, JAUNTY_PAWN_QUEUE, JAUNTY_PAWN_CORES, JAUNTY_PAWN_LOG, JAUNTY_PAWN_PASSPHRASE,
JAUNTY_PAWN_PROXIES. docs/running.md says what each is.`,
    )
  else fail(`There is no option “${option}”; --help lists what there is.`)
  process.exit(0)
}

function readPort(text) {
  const port = Number(text)
  if (/^\d+$/.test(text) && port <= 65_535) return port
  return fail(`PORT is “${text}”. Write a whole number from 0 to 65535, or leave it out for 3000.`)
}

/** Says why it cannot begin, and ends. */
export function fail(sentence) {
  console.error(sentence)
  process.exit(1)
}
