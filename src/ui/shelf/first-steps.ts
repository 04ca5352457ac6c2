/** Where this browser remembers that the first steps were put away. */
const PUT_AWAY = 'first-steps-put-away'

/** For a browser that keeps nothing. */
let away = false
const watchers = new Set<() => void>()

export function watchFirstSteps(run: () => void): () => void {
  watchers.add(run)
  return () => watchers.delete(run)
}

export function wantsFirstSteps(): boolean {
  try {
    return !away && localStorage.getItem(PUT_AWAY) === null
  } catch {
    return !away
  }
}

export function hideFirstSteps(): void {
  away = true
  try {
    localStorage.setItem(PUT_AWAY, 'yes')
  } catch {
    // Until the page is loaded again.
  }
  for (const run of watchers) run()
}
