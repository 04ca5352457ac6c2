import { ProblemError } from '../../core/problem'
import type { ProblemReport } from '../../server/contract/environments'

/** Thrown when an environment was changed elsewhere since it was read. */
export class StaleError extends ProblemError {}

/** Thrown for what is not there, or no longer. */
export class GoneError extends ProblemError {}

/** Asks the server; whatever goes wrong becomes a problem in words. */
export async function send(address: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    response = await fetch(address, init)
  } catch {
    throw new ProblemError([
      {
        place: 'server',
        cause: 'The server does not answer.',
        remedy: 'Check that it is running, then try again.',
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
  if (response.status === 409) throw new StaleError(report.problems)
  if (response.status === 404) throw new GoneError(report.problems)
  throw new ProblemError(report.problems)
}

/** Browsers send bodies up to 64 kB on after a page is gone; a character may take three bytes. */
const KEPT = 20_000

/** What is small enough is saved even if the page is left before the answer comes. */
export function put(address: string, value: unknown): Promise<Response> {
  const body = JSON.stringify(value)
  return send(address, { method: 'PUT', body, keepalive: body.length < KEPT })
}
