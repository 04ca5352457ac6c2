import { ProblemError } from '../../core/problem'
import type { ProblemReport } from '../../server/contract/environments'

/** Thrown when an environment was changed elsewhere since it was read. */
export class StaleError extends ProblemError {}

/** Thrown when an environment only followed its base since it was read. */
export class FollowedError extends StaleError {}

/** Thrown when the server does not answer, or cannot do now what it should: it is worth another try later. */
export class UnavailableError extends ProblemError {}

/** Thrown for what is not there, or no longer. */
export class GoneError extends ProblemError {}

const JSON_TYPE = { 'content-type': 'application/json' }

/** Asks the server, in JSON where something is sent and nothing else is said; whatever goes wrong becomes a problem in words. */
export async function send(address: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    response = await fetch(address, init?.body ? { headers: JSON_TYPE, ...init } : init)
  } catch {
    throw new UnavailableError([
      {
        place: 'server',
        cause: 'The server does not answer.',
        remedy: 'Check that it is running; it is tried again by itself.',
      },
    ])
  }
  if (response.ok) return response
  let report: ProblemReport
  try {
    report = (await response.json()) as ProblemReport
  } catch {
    report = {
      problems: [
        {
          place: 'server',
          cause: `The server answered with status ${response.status}.`,
          remedy: 'Try again.',
        },
      ],
    }
  }
  if (response.status === 409)
    throw report.followed ? new FollowedError(report.problems) : new StaleError(report.problems)
  if (response.status === 404) throw new GoneError(report.problems)
  if (response.status >= 500) throw new UnavailableError(report.problems)
  throw new ProblemError(report.problems)
}

/** Browsers send bodies up to 64 kB on after a page is gone; a character may take three bytes. */
const KEPT = 20_000

/** What is small enough is saved even if the page is left before the answer comes. */
export function put(address: string, value: unknown): Promise<Response> {
  const body = JSON.stringify(value)
  return send(address, { method: 'PUT', body, keepalive: body.length < KEPT })
}
