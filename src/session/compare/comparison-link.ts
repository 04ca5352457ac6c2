/** The part of an address that names a comparison. */
const COMPARISON = 'comparison'

/** The comparison that an address asks for; null for none. */
export function linkedComparison(address: string): string | null {
  return new URL(address).searchParams.get(COMPARISON)
}

/** The address of the page at hand with a comparison in it. */
export function comparisonLink(address: string, id: string): string {
  const url = new URL(address)
  url.search = ''
  url.searchParams.set(COMPARISON, id)
  return url.href
}

export async function copyComparisonLink(id: string): Promise<void> {
  const link = comparisonLink(window.location.href, id)
  // The address bar has it too, for browsers that give no access to the clipboard.
  window.history.replaceState(null, '', link)
  await navigator.clipboard?.writeText(link).catch(() => {})
}
