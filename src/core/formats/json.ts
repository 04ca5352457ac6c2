import { refuse } from '../problem'

/** What a JSON text says, with or without a byte-order mark. @throws ProblemError naming `place` for what is no JSON */
export function parseJson(text: string, place: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch {
    return refuse(place, 'This is not valid JSON.', 'Look for a missing comma, quote or brace.')
  }
}
