import { checkChoice, type LearnChoice } from '../../core/settings/choice'

/** The part of an address that carries the settings of a run. */
export const RUN = 'run'

/** The address of the page at hand with all settings of a run in it. */
export function runLink(address: string, choice: LearnChoice): string {
  const url = new URL(address)
  url.search = ''
  url.searchParams.set(RUN, JSON.stringify(choice))
  return url.href
}

/** The settings that an address asks for; a problem in words when they are not sound. */
export type RunLink = { readonly choice: Partial<LearnChoice> } | { readonly problem: string }

/** @param text  what the address says, if it says anything */
export function readRunLink(text: string | string[] | undefined): RunLink | null {
  if (text === undefined) return null
  let value: unknown
  try {
    value = JSON.parse(String(text))
  } catch {
    return { problem: 'The link is cut short or damaged: its settings cannot be read. Ask for it again.' }
  }
  const checked = checkChoice(value)
  return 'choice' in checked
    ? checked
    : {
        problem: `The link asks for settings that do not exist: ${checked.problem}. The usual ones were taken.`,
      }
}

export async function copyRunLink(choice: LearnChoice): Promise<void> {
  const link = runLink(window.location.href, choice)
  // The address bar has it too, for browsers that give no access to the clipboard.
  window.history.replaceState(null, '', link)
  await navigator.clipboard?.writeText(link).catch(() => {})
}
