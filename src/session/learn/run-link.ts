import type { LearnChoice } from '../../core/settings/choice'

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

export async function copyRunLink(choice: LearnChoice): Promise<void> {
  const link = runLink(window.location.href, choice)
  // The address bar has it too, for browsers that give no access to the clipboard.
  window.history.replaceState(null, '', link)
  await navigator.clipboard?.writeText(link).catch(() => {})
}
