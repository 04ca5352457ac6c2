import { remember, remembered } from '../parts/remembered'

/** Where this browser remembers that the first steps were put away. */
export const PUT_AWAY = 'first-steps-put-away'

/** For a browser that keeps nothing. */
let away = false
const watchers = new Set<() => void>()

export function watchFirstSteps(run: () => void): () => void {
  watchers.add(run)
  return () => watchers.delete(run)
}

export function wantsFirstSteps(): boolean {
  return !away && remembered(PUT_AWAY) === null
}

export function hideFirstSteps(): void {
  away = true
  remember(PUT_AWAY, 'yes')
  for (const run of watchers) run()
}
