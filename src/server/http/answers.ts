import { ProblemError, refuse, type Problem } from '../../core/problem'
import { jsonOf } from '../../hosts/node/document-tasks'
import { callerOf, type Caller } from '../access/caller'
import { whoMayCall } from '../access/routes'
import type { ProblemReport } from '../contract/environments'
import { codeOf, databaseProblem } from '../db/failures'
import { log } from '../log'

/** The largest body a route reads, in bytes. */
const MEGABYTE = 1024 * 1024
const BODY_LIMIT = 32 * MEGABYTE

/** The largest body of those who may be anybody, in bytes. */
export const SMALL_BODY = 16 * 1024

export function problemAnswer(status: number, ...problems: Problem[]): Response {
  return Response.json({ problems } satisfies ProblemReport, { status, headers: NEVER_KEPT })
}

/** What a server says now may be otherwise a moment later. */
const NEVER_KEPT = { 'cache-control': 'no-store' }

/** An answer as JSON, which no cache keeps. */
export function jsonAnswer(value: unknown, status = 200): Response {
  return Response.json(value, { status, headers: NEVER_KEPT })
}

/** Done, and nothing to be said. */
export function emptyAnswer(): Response {
  return new Response(null, { status: 204, headers: NEVER_KEPT })
}

export function missingAnswer(): Response {
  return problemAnswer(404, {
    place: 'environment',
    cause: 'It is not on the shelf, or no longer.',
    remedy: 'Go back to the shelf.',
  })
}

/** For those who may not see what is there, and for what is not there. */
export function nothingAnswer(): Response {
  return problemAnswer(404, {
    place: 'address',
    cause: 'There is nothing here.',
    remedy: 'Go back to the page you came from.',
  })
}

/**
 * Runs a route for the one who asks. Problems of the input become an answer that says so, with status 400; a database
 * that cannot be used one with 503.
 */
export async function answer(
  request: Request,
  run: (caller: Caller) => Promise<Response>,
): Promise<Response> {
  try {
    const caller = callerOf(request)
    // The gate has seen to that; what does not come through it gets nothing either.
    if (!whoMayCall(new URL(request.url).pathname).some((role) => caller.roles.includes(role)))
      return nothingAnswer()
    return await run(caller)
  } catch (error) {
    if (error instanceof ProblemError) return problemAnswer(400, ...error.problems)
    const problem = databaseProblem(error)
    if (problem) {
      log().warn({ ...asked(request), code: codeOf(error) }, problem.cause)
      return problemAnswer(503, problem)
    }
    log().error({ ...asked(request), err: error }, 'A fault of the program')
    return problemAnswer(500, {
      place: 'server',
      cause: 'Something went wrong that is not your fault.',
      remedy: 'Try again; the server’s log says more.',
    })
  }
}

/** What tells a request from others in the log. */
function asked({ method, url, headers }: Request) {
  return { request: headers.get('x-request-id') ?? undefined, method, path: new URL(url).pathname }
}

/** The bytes of a request's body. @param limit  how many they may be  @throws ProblemError when they are too many; no more are read then */
export async function readBytes(request: Request, limit = BODY_LIMIT): Promise<Uint8Array> {
  const tooLarge = () =>
    refuse(
      'request',
      `It is larger than ${limit < MEGABYTE ? `${limit / 1024} kB` : `${Math.round(limit / MEGABYTE)} MB`}.`,
      'Send something smaller, or work on the file with the command line.',
    )
  if (Number(request.headers.get('content-length') ?? 0) > limit) tooLarge()
  const parts: Uint8Array[] = []
  let size = 0
  // Its length need not have been told beforehand.
  const reader = request.body?.getReader()
  for (let part = await reader?.read(); part?.value; part = await reader!.read()) {
    size += part.value.length
    if (size > limit) {
      await reader!.cancel()
      tooLarge()
    }
    parts.push(part.value)
  }
  return Buffer.concat(parts)
}

/** The JSON of a request's body. @param limit  bytes  @throws ProblemError when it is none, or too large */
export async function readJson(request: Request, limit = BODY_LIMIT): Promise<unknown> {
  return jsonOf(await readBytes(request, limit))
}
