// Answers are kept as they were made until what they show changes: a whole class that opens the same address costs
// little more than one of them.
import { randomUUID } from 'node:crypto'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'

const compress = promisify(gzip)

/** How long an answer is kept at the most, in milliseconds: the shelf tells how long ago something was changed. */
const KEPT_FOR = 30_000
/** The longest answer that is kept, and all of them together, in characters. */
const LONGEST = 1_000_000
const ALTOGETHER = 40_000_000
/** Answers that show nothing but what is in the database. The groups are of those that show one environment and its base alone. */
const KEPT =
  /^\/(?:(?:bin|api\/environments)?|environment\/([\w-]+)(?:\/[a-z]+)?|api\/environments\/([\w-]+)(?:\/picture)?)(?:\?|$)/
/** Headers of requests for parts of pages, which are not kept. */
const PARTS = ['rsc', 'next-router-prefetch', 'next-router-state-tree']
/** Headers that each answer has of its own. */
const OWN = new Set([
  'connection',
  'content-encoding',
  'content-length',
  'content-security-policy',
  'date',
  'keep-alive',
  'transfer-encoding',
  'x-request-id',
])
const MARK = 'x-kept-page'

/**
 * @param addressOf  where this very server answers
 * @param stampOf    given the id of an environment, a stamp that every change of it alters; given none, every change of
 *                   the database; null where there is no stamp, so that nothing is kept
 */
export function keptPages(addressOf, stampOf) {
  /** Marks what this server asks itself. */
  const secret = randomUUID()
  /** By address, the one that was made longest ago first. */
  const kept = new Map()
  let length = 0

  /** The answer at an address, made once for all who ask at a time; null for what is not to be kept. */
  async function answerAt(url, id) {
    const stamp = await stampOf(id)
    if (stamp === null) return null
    const found = kept.get(url)
    if (found?.stamp === stamp && performance.now() - found.since < KEPT_FOR) return found.made
    forget(url)
    const entry = { stamp, since: performance.now(), length: 0, made: make(url) }
    kept.set(url, entry)
    try {
      const answer = await entry.made
      if (kept.get(url) === entry) length += entry.length = answer?.length ?? 0
      for (const old of kept.keys()) if (length > ALTOGETHER) forget(old)
      return answer
    } catch (error) {
      // A failure is not kept: the request is then answered in the ordinary way.
      if (kept.get(url) === entry) forget(url)
      throw error
    }
  }

  function forget(url) {
    length -= kept.get(url)?.length ?? 0
    kept.delete(url)
  }

  async function make(url) {
    const answer = await fetch(addressOf() + url, {
      headers: { [MARK]: secret, 'accept-encoding': 'identity' },
    })
    if (answer.status !== 200) throw new Error(`${url}: ${answer.status}`)
    const text = await answer.text()
    if (text.length > LONGEST) return null
    const nonce = /'nonce-([^']+)'/.exec(answer.headers.get('content-security-policy'))[1]
    const headers = [...answer.headers].filter(([name]) => !OWN.has(name))
    return { parts: text.split(nonce), length: text.length, headers }
  }

  return {
    /** Whether this server asks itself. */
    own: (request) => request.headers[MARK] === secret,
    /** Answers with what is kept. @returns false where that is nothing */
    async answer(request, response) {
      const { method, url, headers } = request
      const known = KEPT.exec(url)
      if (method !== 'GET' || !known || PARTS.some((name) => name in headers)) return false
      const answer = await answerAt(url, known[1] ?? known[2]).catch(() => null)
      if (!answer) return false
      for (const [name, value] of answer.headers) response.setHeader(name, value)
      // Each answer has a nonce of its own.
      const text = Buffer.from(answer.parts.join(headers['x-nonce']))
      const small = /\bgzip\b/.test(headers['accept-encoding'] ?? '')
      const body = small ? await compress(text, { level: 3 }) : text
      if (small) response.setHeader('content-encoding', 'gzip')
      response.setHeader('content-length', body.length)
      response.end(body)
      return true
    },
  }
}
