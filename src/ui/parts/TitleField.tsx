'use client'

import { useState } from 'react'

/** The name of the whole page, changed in place: Enter and leaving take it, Escape does not. */
export function TitleField({
  label,
  name,
  className,
  onName,
}: {
  label: string
  name: string
  /** How wide it is. */
  className: string
  onName(name: string): void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const finish = () => {
    const text = draft?.trim().slice(0, 120)
    if (text && text !== name) onName(text)
    setDraft(null)
  }
  return (
    <input
      aria-label={label}
      className={`w-0 min-w-24 grow rounded-sm border border-transparent bg-transparent px-1.5 py-0.5 font-title text-[19px] font-semibold text-ellipsis hover:border-rule-strong focus:bg-sheet ${className}`}
      value={draft ?? name}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish()
        if (event.key === 'Escape') setDraft(null)
      }}
    />
  )
}
