'use client'

import { create } from 'zustand'

export type Theme = 'day' | 'night'

const DARK = '(prefers-color-scheme: dark)'

/** The theme in force. The root element carries it; layout.tsx sets it before the first paint. */
export const useTheme = create<{ theme: Theme; set(theme: Theme): void }>()((set) => ({
  // What the server assumes; a page learns below what it really is, once it is drawn as the server sent it.
  theme: 'day',
  set(theme) {
    document.documentElement.dataset.theme = theme
    try {
      localStorage.setItem('theme', theme)
    } catch {
      // A browser that stores nothing still changes its theme.
    }
    set({ theme })
  },
}))

function currentTheme(): Theme {
  return document.documentElement.dataset.theme === 'night' ? 'night' : 'day'
}

function isChosen(): boolean {
  try {
    return localStorage.getItem('theme') !== null
  } catch {
    return false
  }
}

// As long as nobody has chosen a theme, that of the system is followed while the page is open.
if (typeof window !== 'undefined') {
  useTheme.setState({ theme: currentTheme() })
  window.matchMedia(DARK).addEventListener('change', ({ matches }) => {
    if (isChosen()) return
    const theme = matches ? 'night' : 'day'
    document.documentElement.dataset.theme = theme
    useTheme.setState({ theme })
  })
}
