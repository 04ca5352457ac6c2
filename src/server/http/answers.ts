import { ProblemError, type Problem } from '../../core/problem'
import type { ProblemReport } from '../contract/environments'

/** The largest body a route reads, in characters. */
const BODY_LIMIT = 32 * 1024 * 1024

export function problemAnswer(status: number, ...problems: Problem[]): Response {
  return Response.json({ problems } satisfies ProblemReport, { status })
}

export function missingAnswer(): Response {
  return problemAnswer(404, {
    place: 'environment',
    cause: 'It is not on the shelf, or no longer.',
    remedy: 'Go back to the shelf.',
  })
}

/** Runs a route; problems of the input become an answer that says so, with status 400. */
export async function answer(run: () => Promise<Response>): Promise<Response> {
  try {
    return await run()
  } catch (error) {
    if (error instanceof ProblemError) return problemAnswer(400, ...error.problems)
    console.error(error)
    return problemAnswer(500, {
      place: 'server',
      cause: 'Something went wrong that is not your fault.',
      remedy: 'Try again; the server’s log says more.',
    })
  }
}

/** The text of a request's body. @throws ProblemError when it is too large */
export async function readBody(request: Request): Promise<string> {
  const tooLarge = () => {
    throw new ProblemError([
      {
        place: 'request',
        cause: 'It is larger than 32 MB.',
        remedy: 'Send a smaller environment, or work on the file with the command line.',
      },
    ])
  }
  if (Number(request.headers.get('content-length') ?? 0) > BODY_LIMIT) tooLarge()
  const text = await request.text()
  return text.length > BODY_LIMIT ? tooLarge() : text
}

/** The JSON of a request's body. @throws ProblemError when it is none */
export async function readJson(request: Request): Promise<unknown> {
  const text = await readBody(request)
  try {
    return JSON.parse(text)
  } catch {
    throw new ProblemError([{ place: 'request', cause: 'It is not JSON.', remedy: 'Send a JSON object.' }])
  }
}
