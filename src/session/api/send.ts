import { ProblemError } from '../../core/problem'
import type { ProblemReport } from '../../server/contract/environments'

/** Thrown when an environment was changed elsewhere since it was read. */
export class StaleError extends ProblemError {}

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
  throw response.status === 409 ? new StaleError(report.problems) : new ProblemError(report.problems)
}
