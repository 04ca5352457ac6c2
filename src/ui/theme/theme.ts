'use client'

import { create } from 'zustand'
import { remember, remembered } from '../parts/remembered'

export type Theme = 'day' | 'night'

const DARK = '(prefers-color-scheme: dark)'

/** The theme in force. The root element carries it; layout.tsx sets it before the first paint. */
export const useTheme = create<{ theme: Theme; set(theme: Theme): void }>()((set) => ({
  // What the server assumes; a page learns below what it really is, once it is drawn as the server sent it.
  theme: 'day',
  set(theme) {
    document.documentElement.dataset.theme = theme
    remember('theme', theme)
    set({ theme })
  },
}))

function currentTheme(): Theme {
  return document.documentElement.dataset.theme === 'night' ? 'night' : 'day'
}

function isChosen(): boolean {
  return remembered('theme') !== null
}

// As long as nobody has chosen a theme, that of the system is followed: also what it changed to since the first paint.
if (typeof window !== 'undefined') {
  const dark = window.matchMedia(DARK)
  const follow = () => {
    if (!isChosen()) document.documentElement.dataset.theme = dark.matches ? 'night' : 'day'
    useTheme.setState({ theme: currentTheme() })
  }
  follow()
  dark.addEventListener('change', follow)
}
