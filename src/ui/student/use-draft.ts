import { useSyncExternalStore } from 'react'

/** Where a browser keeps nothing, it is kept as long as the page is open. */
const unkept = new Map<string, string>()
const CHANGED = 'draft-changed'

function read(key: string): string | null {
  try {
    return localStorage.getItem(key)
  } catch {
    return unkept.get(key) ?? null
  }
}

function write(key: string, text: string): void {
  try {
    localStorage.setItem(key, text)
  } catch {
    unkept.set(key, text)
  }
  window.dispatchEvent(new Event(CHANGED))
}

function subscribe(changed: () => void): () => void {
  for (const event of [CHANGED, 'storage']) window.addEventListener(event, changed)
  return () => {
    for (const event of [CHANGED, 'storage']) window.removeEventListener(event, changed)
  }
}

/** Text that is kept in the browser while it is written, so that a page that is closed by mistake loses nothing. */
export function useDraft(name: string, first: string): [string, (text: string) => void] {
  const key = `draft ${name}`
  const kept = useSyncExternalStore(
    subscribe,
    () => read(key),
    () => null,
  )
  return [kept ?? first, (text) => write(key, text)]
}
