'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'

/** Quiet time before it is looked, in milliseconds. */
const DELAY = 250

/** The address of the shelf with what is looked for, and how much is shown. */
export function shelfAddress(find: string, show?: number): string {
  const parts = new URLSearchParams({ ...(find ? { find } : {}), ...(show ? { show: String(show) } : {}) })
  return parts.size ? `/?${parts}` : '/'
}

/** Looks for environments by part of their names, as it is typed. */
export function FindField({ find }: { find: string }) {
  const router = useRouter()
  const [draft, setDraft] = useState(find)
  const asked = useRef(find)
  useEffect(() => {
    const wanted = draft.trim()
    if (wanted === asked.current) return
    const timer = setTimeout(() => {
      asked.current = wanted
      router.replace(shelfAddress(wanted), { scroll: false })
    }, DELAY)
    return () => clearTimeout(timer)
  }, [draft, router])
  return (
    <input
      type="search"
      aria-label="Find an environment by its name"
      placeholder="Find by name"
      className="w-40 rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5"
      maxLength={120}
      value={draft}
      onChange={(event) => setDraft(event.target.value)}
    />
  )
}
