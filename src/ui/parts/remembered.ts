/** What this browser keeps under a name; null for nothing, also where it keeps nothing at all. */
export function remembered(name: string): string | null {
  try {
    return localStorage.getItem(name)
  } catch {
    return null
  }
}

/** Has the browser keep something, where it keeps anything. */
export function remember(name: string, value: string): void {
  try {
    localStorage.setItem(name, value)
  } catch {
    // It is gone with the page.
  }
}
