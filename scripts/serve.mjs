// Serves what was built.
import { randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { guard, protect, refusalOf, refuse } from './guard.mjs'
import { keptPages } from './kept-pages.mjs'
import { fail, host, names, proxies, wanted } from './settings.mjs'

/** What the system says of a port or a host, in words. */
const WORDS = {
  EACCES: 'This port is only for the administrator of the machine. Set PORT to one above 1023.',
  EADDRNOTAVAIL: 'This machine has no such address. Set HOST to one that it has, or leave it out.',
  ENOTFOUND: 'There is no such host. Set HOST to an address of this machine, or leave it out.',
}
/** The header that says who asks, see src/server/access/caller.ts. */
const CALLER = 'x-caller'
/** An address at which there is nothing. */
const NOTHING = '/nothing-is-here'
/** Senders over their limit that are remembered, at the most. */
const MOST_TURNED_AWAY = 1_000
/** How long their refusal is delayed, in milliseconds, and how many refusals are delayed at once. */
const HELD_OFF = 500
const MOST_HELD_OFF = 1_000
/** How long open requests have to end when the server is stopped, in milliseconds. */
const ENDING = 5_000

if (!existsSync('.next/BUILD_ID'))
  fail('Nothing is built here yet. Run npm run build first, or npm start, which does both.')
process.env.NODE_ENV = 'production'
process.env.NEXT_TELEMETRY_DISABLED = '1'
// The settings as they were when it was built: to work them out anew, Next.js asks for tools of building.
const { config } = JSON.parse(readFileSync('.next/required-server-files.json', 'utf8'))
process.env.__NEXT_PRIVATE_STANDALONE_CONFIG = JSON.stringify(config)
const { default: next } = await import('next')

let handle
const pages = keptPages(
  () => address,
  async (id) => (await globalThis.jauntyPawnStamp?.(id)) ?? null,
)
/** Senders who are over their limit, with the time until which they are refused: before a session or the database is looked at. */
const turnedAway = new Map()
let heldOff = 0
const server = createServer((request, response) => {
  const wait = waitOf(request)
  if (wait) return holdOff(response, wait)
  if (!pages.own(request)) follow(request, response)
  const refusal = refusalOf(request, names)
  protect(request, response)
  if (refusal) refuse(response, ...refusal)
  else void answer(request, response)
})

async function answer(request, response) {
  await prepared
  try {
    await admitted(request, response)
  } catch (error) {
    // The database may be out of reach.
    globalThis.jauntyPawnLog?.error({ err: error }, 'Letting a request in')
    if (!response.headersSent) refuse(response, 503, 'The server cannot read its database.', 'Try again.')
  }
}

async function admitted(request, response) {
  const own = pages.own(request)
  // Who asks is said by the gate, and by nobody else.
  delete request.headers[CALLER]
  const { method, url, headers } = request
  headers['x-address'] = addressOf(request)
  headers['x-secure'] = proxies > 0 && headers['x-forwarded-proto'] === 'https' ? 'yes' : 'no'
  const asked = { method, path: url.split('?')[0], headers, address: headers['x-address'] }
  const verdict = await globalThis.jauntyPawnGate(asked, own)
  if (verdict === 'missing') {
    request.url = NOTHING
    return handle(request, response)
  }
  if (verdict.wait) turnAway(request, verdict.wait)
  if ('status' in verdict)
    return refuse(response, verdict.status, verdict.cause, verdict.remedy, verdict.wait)
  if ('to' in verdict)
    return response.writeHead(303, { location: verdict.to, 'cache-control': 'no-store' }).end()
  request.headers[CALLER] = verdict.caller
  if (await globalThis.jauntyPawnDirect(request, response)) return
  // What is kept was made for the owner.
  if (own || !verdict.owner || !(await pages.answer(request, response))) handle(request, response)
}

/** The sender of a request, by its session or token; undefined for one who has none, as many may share an address. */
function senderOf({ headers: { cookie, authorization } }) {
  return (cookie ?? authorization) && `${cookie} ${authorization}`
}

/** @returns the seconds that the sender of a request still has to wait; 0 for none */
function waitOf(request) {
  if (turnedAway.size === 0) return 0
  const until = turnedAway.get(senderOf(request))
  return until === undefined ? 0 : Math.max(0, Math.ceil((until - Date.now()) / 1000))
}

/** Refuses a request after a delay, which slows down senders that wait for answers. */
function holdOff(response, wait) {
  const answer = () => refuse(response, 429, 'Too many requests.', `Wait ${wait} s.`, wait)
  if (heldOff >= MOST_HELD_OFF) return answer()
  heldOff++
  setTimeout(() => {
    heldOff--
    answer()
  }, HELD_OFF)
}

function turnAway(request, wait) {
  const sender = senderOf(request)
  if (sender === undefined) return
  if (turnedAway.size >= MOST_TURNED_AWAY) turnedAway.clear()
  turnedAway.set(sender, Date.now() + wait * 1000)
}

/** Where a request came from. A proxy in front adds who asked it to the end of a list. */
function addressOf({ headers, socket }) {
  const told = String(headers['x-forwarded-for'] ?? '').split(',')
  return (proxies > 0 && told.at(-proxies)?.trim()) || socket.remoteAddress || 'unknown'
}
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
    `HOST=${host}: others can reach it over the network. The shelf asks for the pass phrase; students enter a class by its code.`,
  )
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => void stop(signal))

/** Lets open requests end, leaves everything in the database file, and ends. */
async function stop(signal) {
  // A second signal does not wait.
  for (const each of ['SIGINT', 'SIGTERM']) process.once(each, () => process.exit(1))
  globalThis.jauntyPawnEndStreams?.()
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
