'use client'

import { create } from 'zustand'

export type Theme = 'day' | 'night'

/** The theme in force. The root element carries it; layout.tsx sets it before the first paint. */
export const useTheme = create<{ theme: Theme; set(theme: Theme): void }>()((set) => ({
  theme: typeof document === 'undefined' ? 'day' : currentTheme(),
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
