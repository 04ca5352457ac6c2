/** The part of an address that a name stands for; null where there is none. */
export function partOfAddress(address: string, name: string): string | null {
  return new URL(address).searchParams.get(name)
}

/** The address of the page at hand with these parts in it, in place of all others. */
export function addressWith(address: string, parts: Readonly<Record<string, string>>): string {
  const url = new URL(address)
  url.search = new URLSearchParams(parts).toString()
  return url.href
}

/** Puts the address of this page with one part in it into the clipboard. */
export async function copyAddressWith(name: string, value: string): Promise<void> {
  const link = addressWith(window.location.href, { [name]: value })
  // The address bar has it too, for browsers that give no access to the clipboard.
  window.history.replaceState(null, '', link)
  await navigator.clipboard?.writeText(link).catch(() => {})
}
