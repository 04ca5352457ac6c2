import { checkChoice } from '../../core/settings/choice-schema'
import type { RunLink } from './run-link'

/** @param text  what the address says, if it says anything */
export function readRunLink(text: string | string[] | undefined): RunLink | null {
  if (text === undefined) return null
  let value: unknown
  try {
    value = JSON.parse(String(text))
  } catch {
    return {
      problem: 'The link is cut short or damaged: its settings cannot be read. Ask the sender for it again.',
    }
  }
  const checked = checkChoice(value)
  return 'choice' in checked
    ? checked
    : {
        problem: `The link asks for settings that do not exist: ${checked.problem}. The usual ones were taken.`,
      }
}
