import type { IncomingMessage, ServerResponse } from 'node:http'
import { Readable } from 'node:stream'
import { problemAnswer } from './http/answers'
import { join, leaveClass } from './http/enter'
import * as following from './http/following'
import * as play from './http/play'
import * as questions from './http/questions'
import * as student from './http/student'

type Handler = (request: Request, id: string) => Promise<Response>

/**
 * Routes that are asked for hundreds of times a second, or stay open: they are answered here, as Next.js takes several milliseconds for
 * each. By their address, as it would be called in `app`, and by method.
 */
export const DIRECT_ROUTES: Readonly<Record<string, Readonly<Record<string, Handler>>>> = {
  '/api/class': { GET: student.home },
  '/api/class/exercises/[assignment]': { GET: student.readExercise },
  '/api/class/exercises/[assignment]/hand-ins': { POST: student.create },
  '/api/class/exercises/[assignment]/playing': { GET: student.playing },
  '/api/class/exercises/[assignment]/standings': { GET: student.readStandings },
  '/api/class/events': { GET: questions.events },
  '/api/class/following/[document]': { GET: following.document },
  '/api/class/questions/[question]': { PUT: questions.put },
  '/api/class/token': { POST: student.createToken },
  '/api/join': { POST: join, DELETE: leaveClass },
  '/api/play': { GET: play.list },
  '/api/play/sessions': { GET: play.sessions, POST: play.begin },
  '/api/play/sessions/[session]': { GET: play.read, DELETE: play.close },
  '/api/play/sessions/[session]/steps': { POST: play.step },
  '/api/play/hand-ins': { POST: play.handIn },
  '/api/play/hand-ins/[handIn]': { GET: play.readHandIn },
  '/api/play/hand-ins/[handIn]/parts': { POST: play.beginPart },
}

const PATTERNS = Object.entries(DIRECT_ROUTES).map(([route, handlers]) => ({
  pattern: new RegExp(`^${route.replace(/\[\w+\]/, '([\\w-]+)')}$`),
  handlers,
}))

/** Answers a request that the gate has let through. @returns false where it is none of these */
export async function answerDirectly(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
  const path = request.url!.split('?')[0]
  if (!/^\/api\/(play|class|join)\b/.test(path)) return false
  for (const { pattern, handlers } of PATTERNS) {
    const found = pattern.exec(path)
    if (!found) continue
    // What is asked for by HEAD is answered without its body.
    const handler = handlers[request.method === 'HEAD' ? 'GET' : request.method!]
    const answer = handler
      ? await handler(await webRequest(request), found[1])
      : problemAnswer(405, {
          place: 'request',
          cause: `${request.method} is not used here.`,
          remedy: `Use ${Object.keys(handlers).join(' or ')}.`,
        })
    if (answer.headers.get('content-type') === 'text/event-stream') {
      stream(answer, response)
      return true
    }
    const body = Buffer.from(await answer.arrayBuffer())
    response.writeHead(answer.status, {
      ...Object.fromEntries(answer.headers),
      'content-length': body.length,
    })
    response.end(body)
    return true
  }
  return false
}

/** Sends what comes as it comes, until whoever listens is gone. */
function stream(answer: Response, response: ServerResponse): void {
  response.writeHead(answer.status, Object.fromEntries(answer.headers))
  const reader = answer.body!.getReader()
  response.once('close', () => void reader.cancel())
  const pump = async () => {
    for (let part = await reader.read(); !part.done; part = await reader.read()) response.write(part.value)
    response.end()
  }
  // A connection that broke is the end of it.
  pump().catch(() => response.destroy())
}

/** Bodies up to so many bytes are read at once; longer ones part by part, so that a handler refuses what is too long. */
const AT_ONCE = 64 * 1024

async function webRequest(request: IncomingMessage): Promise<Request> {
  const { method, url, headers } = request
  return new Request(`http://localhost${url}`, {
    method,
    headers: new Headers(
      Object.entries(headers).flatMap(([name, value]) =>
        typeof value === 'string' ? [[name, value] as [string, string]] : [],
      ),
    ),
    body: await bodyOf(request),
    duplex: 'half',
  } as RequestInit)
}

async function bodyOf(request: IncomingMessage): Promise<BodyInit | null> {
  if (request.method === 'GET' || request.method === 'HEAD') return null
  const size = Number(request.headers['content-length'] ?? NaN)
  if (!(size <= AT_ONCE)) return Readable.toWeb(request) as ReadableStream<Uint8Array>
  const parts: Buffer[] = []
  for await (const part of request as AsyncIterable<Buffer>) parts.push(part)
  return size ? Buffer.concat(parts) : null
}
