// Installs what is missing, builds when the build is older than the sources, and serves the application.
import './node-version.mjs'
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { buildIfStale } from './build.mjs'
import { guard, knownNames, protect, refusalOf, refuse } from './guard.mjs'
import { installPackages } from './install.mjs'
import { buildWorkers } from './workers.mjs'

/** What the system says of a port or a host, in words. */
const WORDS = {
  EACCES: 'This port is only for the administrator of the machine. Set PORT to one above 1023.',
  EADDRNOTAVAIL: 'This machine has no such address. Set HOST to one that it has, or leave it out.',
  ENOTFOUND: 'There is no such host. Set HOST to an address of this machine, or leave it out.',
}
/** How long open requests have to end when the server is stopped, in milliseconds. */
const ENDING = 5_000

const option = process.argv[2]
if (option && option !== '--build') tell(option)
// Only this machine, unless HOST says otherwise (0.0.0.0 for a whole class): there is no access control yet.
const host = process.env.HOST || '127.0.0.1'
const names = knownNames(host, process.env.JAUNTY_PAWN_HOSTS)
const wanted = readPort(process.env.PORT || '3000')

installPackages()
buildIfStale()
await buildWorkers()
// All that a later start would do first, as for an image of a container.
if (option === '--build') process.exit(0)
process.env.NODE_ENV = 'production'
process.env.NEXT_TELEMETRY_DISABLED = '1'
const { default: next } = await import('next')

let handle
const server = createServer((request, response) => {
  follow(request, response)
  const refusal = refusalOf(request, names)
  protect(request, response)
  if (refusal) refuse(response, ...refusal)
  else void prepared.then(() => handle(request, response))
})
guard(server)
const port = await listen()
const address = `http://${['0.0.0.0', '::', '127.0.0.1', '::1'].includes(host) ? 'localhost' : host}:${port}`
globalThis.jauntyPawnAddress = address
// In this very process, and on the port that is held already: a second start takes no longer than it must.
const app = next({ dev: false, port })
const started = new Promise((resolve) => (globalThis.jauntyPawnStarted = resolve))
const prepared = app.prepare().then(() => started)
await prepared
handle = app.getRequestHandler()
console.log(`Jaunty Pawn is at ${address}`)
if (!['127.0.0.1', '::1', 'localhost'].includes(host))
  console.log(
    `HOST=${host}: everybody who reaches this machine over the network can now read, change and delete everything on the shelf.`,
  )
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => void stop(signal))

/** Lets open requests end, leaves everything in the database file, and ends. */
async function stop(signal) {
  // A second signal does not wait.
  for (const each of ['SIGINT', 'SIGTERM']) process.once(each, () => process.exit(1))
  const ended = new Promise((resolve) => server.close(resolve))
  server.closeIdleConnections()
  const patience = setTimeout(() => server.closeAllConnections(), ENDING)
  await ended
  clearTimeout(patience)
  await globalThis.jauntyPawnStop?.()
  console.log(`Jaunty Pawn has ended (${signal}); everything is in the database file.`)
  process.exit(0)
}

/** Gives a request its number, and tells the log when it is answered. */
function follow(request, response) {
  const began = performance.now()
  const id = randomUUID()
  request.headers['x-request-id'] = id
  if (!request.url?.startsWith('/_next/static/')) response.setHeader('x-request-id', id)
  response.once('finish', () =>
    globalThis.jauntyPawnLog?.info(
      {
        request: id,
        method: request.method,
        // Without what stands behind the question mark: that may be long.
        path: request.url?.split('?')[0],
        status: response.statusCode,
        ms: Math.round(performance.now() - began),
      },
      'Request',
    ),
  )
}

/** Tells what was asked for by an option, and ends. */
function tell(option) {
  const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8'))
  if (option === '--version') console.log(version)
  else if (option === '--help')
    console.log(
      `npm start           installs what is missing, builds, and serves the shelf
npm run build       does all of that but serve
npm start -- --version

Set by variables of the environment: PORT, HOST, JAUNTY_PAWN_HOSTS, JAUNTY_PAWN_DATABASE, JAUNTY_PAWN_BACKUPS,
JAUNTY_PAWN_BACKUPS_KEPT, JAUNTY_PAWN_QUEUE, JAUNTY_PAWN_CORES, JAUNTY_PAWN_LOG. docs/running.md says what each is.`,
    )
  else fail(`There is no option “${option}”; --help lists what there is.`)
  process.exit(0)
}

function readPort(text) {
  const port = Number(text)
  if (/^\d+$/.test(text) && port <= 65_535) return port
  return fail(`PORT is “${text}”. Write a whole number from 0 to 65535, or leave it out for 3000.`)
}

/** Listens on the first free port from the one that is wanted. */
async function listen() {
  for (let port = wanted; port <= Math.min(65_535, wanted + 99); port++) {
    const error = await new Promise((resolve) => {
      server.once('error', resolve)
      server.listen(port, host, () => resolve(null))
    })
    server.removeAllListeners('error')
    if (!error) return server.address().port
    if (error.code !== 'EADDRINUSE') fail(`${host}, port ${port}: ${WORDS[error.code] ?? error.message}`)
  }
  return fail(`No port from ${wanted} to ${Math.min(65_535, wanted + 99)} is free; set PORT.`)
}

function fail(sentence) {
  console.error(sentence)
  process.exit(1)
}
