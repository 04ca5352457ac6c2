import { createStore } from 'zustand'

/** The class that follows what this tab of the browser shows, also on the next page; null for none. */
export interface FollowedClass {
  readonly id: string
  readonly name: string
}

const KEY = 'followed class'

function kept(): FollowedClass | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as FollowedClass | null
  } catch {
    return null
  }
}

export const followedClass = createStore<{
  readonly followed: FollowedClass | null
  readonly problem: string | null
}>()(() => ({ followed: null, problem: null }))

/** Takes up what was followed on the page before. */
export function takeUpFollowed(): void {
  const found = kept()
  if (found && !followedClass.getState().followed) followedClass.setState({ followed: found })
}

export function setFollowed(followed: FollowedClass | null, problem: string | null = null): void {
  followedClass.setState({ followed, problem })
  try {
    if (followed) sessionStorage.setItem(KEY, JSON.stringify(followed))
    else sessionStorage.removeItem(KEY)
  } catch {
    // A browser that keeps nothing: it is followed on this page alone.
  }
}
