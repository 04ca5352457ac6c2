import { checkEnvironment } from '../../core/environment/document'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError, refuse } from '../../core/problem'

/** The JSON of a column. @param what  what it holds, in a word  @throws ProblemError for what was cut off or overwritten */
export function parseStored(text: string, what: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return refuse(
      what,
      'What stands in the database is no JSON: it was cut off or overwritten.',
      'Bring it back from a backup: docs/running.md says how.',
    )
  }
}

/** @throws ProblemError for what this version cannot read */
export function readDocument(text: string): EnvironmentDocument {
  return checkEnvironment(parseStored(text, 'environment'))
}

/** A document, or why it cannot be read. */
export function tryReadDocument(
  text: string,
): { readonly document: EnvironmentDocument } | { readonly damage: string } {
  try {
    return { document: readDocument(text) }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    const { place, cause } = error.problems[0]
    return { damage: `${place}: ${cause}` }
  }
}

/** Undefined for what cannot be read. */
export function readableDocument(text: string): EnvironmentDocument | undefined {
  const read = tryReadDocument(text)
  return 'document' in read ? read.document : undefined
}

/** ISO 8601; the beginning of time for a column that holds none. */
export function timeText(time: Date): string {
  return Number.isNaN(time.getTime()) ? new Date(0).toISOString() : time.toISOString()
}
