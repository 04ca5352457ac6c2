'use client'

import { createContext, useContext } from 'react'

/** Where the curve of a strip stands while it is spread: in the board's place; null while that is not there. */
export const SpreadPlace = createContext<HTMLElement | null>(null)

export function useSpreadPlace(): HTMLElement | null {
  return useContext(SpreadPlace)
}
