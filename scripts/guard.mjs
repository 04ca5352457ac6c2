// What stands between the network and the application: requests that no page of it makes are refused before it sees them,
// and every answer says what a browser may do with it.
import { randomBytes } from 'node:crypto'
import { hostname, networkInterfaces } from 'node:os'

const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'])
const READING = new Set(['GET', 'HEAD'])
/** What any page of the web may send without asking: none of it is taken for a change. */
const SIMPLE_TYPES = new Set(['', 'text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data'])
const EVERYWHERE = new Set(['0.0.0.0', '::'])

/**
 * The names under which the server may be addressed: those of this machine, and those it was told.
 * @param host  what it listens on
 * @param told  more names, with commas between them
 */
export function knownNames(host, told = '') {
  const own = EVERYWHERE.has(host)
    ? [
        hostname(),
        `${hostname()}.local`,
        ...Object.values(networkInterfaces())
          .flat()
          .map(({ address }) => address),
      ]
    : [host]
  return new Set(
    ['localhost', '127.0.0.1', '::1', ...own, ...told.split(',')].map((name) => name.trim().toLowerCase()),
  )
}

/** What is wrong with a request: status, cause and way out; null for one that the application is to answer. */
export function refusalOf({ method, url = '', headers }, names) {
  if (!METHODS.has(method)) return [405, 'This method is not used here.', SEE]
  if (!url.startsWith('/')) return [400, 'The address must begin with a slash.', SEE]
  try {
    decodeURI(url)
  } catch {
    return [400, 'The address has a % that begins no character.', 'Write %25 for the sign itself.']
  }
  const name = nameOf(headers.host)
  if (!names.has(name))
    return [
      421,
      `The server is not known as “${name}”.`,
      'If that is meant, start it with JAUNTY_PAWN_HOSTS naming it.',
    ]
  // The application has no server actions: what asks for one was not made by its pages.
  if ('next-action' in headers) return [400, 'There is no such action.', SEE]
  return READING.has(method) ? null : changeRefusal(headers)
}

const SEE = 'See docs/formats.md for the interface.'

/** What is wrong with a request that would change something: pages of others must not make one. */
function changeRefusal(headers) {
  const foreign = [403, 'Another page asks for this change.', 'Make it on a page of this server.']
  const { origin, host } = headers
  const site = headers['sec-fetch-site']
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return foreign
  if (origin !== undefined && origin.replace(/^https?:\/\//, '').toLowerCase() !== host.toLowerCase())
    return foreign
  const hasBody = headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0
  const type = (headers['content-type'] ?? '').split(';')[0].trim().toLowerCase()
  if (hasBody && SIMPLE_TYPES.has(type))
    return [
      415,
      `The content type is “${type}”.`,
      'Send JSON as application/json, a list as text/csv, a rulebook as text/x-rulebook.',
    ]
  return null
}

/** The name in a Host header, without its port. */
function nameOf(host = '') {
  return host
    .replace(/:\d*$/, '')
    .replace(/^\[(.*)\]$/, '$1')
    .toLowerCase()
}

/** Answers with a problem, in the form of the interface, and closes the connection. */
export function refuse(response, status, cause, remedy, wait) {
  const body = JSON.stringify({ problems: [{ place: 'request', cause, remedy }] })
  response.writeHead(status, {
    'content-type': 'application/json',
    'content-length': Buffer.byteLength(body),
    'cache-control': 'no-store',
    connection: 'close',
    ...(wait ? { 'retry-after': wait } : {}),
    ...(status === 405 ? { allow: [...METHODS].join(', ') } : {}),
  })
  response.end(body)
}

/** Says what a browser may do with an answer. Scripts run only if they carry the nonce, which pages find in the request. */
export function protect(request, response) {
  const nonce = randomBytes(16).toString('base64')
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    // Boards, charts and the editor set styles as they draw.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
  request.headers['content-security-policy'] = policy
  request.headers['x-nonce'] = nonce
  // Built files say only what concerns them: there are many, and each is fetched on its own.
  const headers = request.url?.startsWith('/_next/static/')
    ? OF_FILES
    : { ...OF_FILES, ...OF_PAGES, 'content-security-policy': policy }
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value)
}

const OF_FILES = {
  'x-content-type-options': 'nosniff',
  'cross-origin-embedder-policy': 'require-corp',
}
const OF_PAGES = {
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'permissions-policy': 'camera=(), geolocation=(), microphone=()',
}

/** Guards a server against what is no request of a page: upgrades, broken requests, connections that stay open. */
export function guard(server) {
  const close = (socket, status) => {
    if (socket.writable) socket.write(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`)
    socket.destroy()
  }
  server.on('upgrade', (_, socket) => close(socket, '400 Bad Request'))
  server.on('connect', (_, socket) => close(socket, '405 Method Not Allowed'))
  server.on('clientError', (error, socket) => {
    if (error.code !== 'ECONNRESET') close(socket, '400 Bad Request')
  })
  // Whoever is slower than this is not asking for a page.
  server.headersTimeout = 20_000
  server.requestTimeout = 120_000
  // Pages that stay open ask again and again; a connection that is closed while they do is an error for them.
  server.keepAliveTimeout = 65_000
}
