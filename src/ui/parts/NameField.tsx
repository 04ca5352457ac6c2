'use client'

import { useState } from 'react'

/** A name as text: takes effect as soon as it is one that may be had, and says so when it is not. */
export function NameField({
  label = 'Name',
  name,
  limit = 60,
  fits,
  rule,
  onName,
}: {
  label?: string
  name: string
  /** Characters at the most. */
  limit?: number
  fits(name: string): boolean
  /** What a name has to be, for those whose name is none. */
  rule: string
  onName(name: string): void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const wrong = draft !== null && !fits(draft.trim())
  return (
    <label className="block min-w-0">
      <span className="text-[13px] text-ink-soft">{label}</span>
      <input
        className={`w-full rounded-sm border bg-sheet px-2 py-1 leading-5 ${wrong ? 'border-alert' : 'border-rule-strong'}`}
        value={draft ?? name}
        maxLength={limit}
        aria-invalid={wrong}
        title={wrong ? rule : undefined}
        onChange={(event) => {
          setDraft(event.target.value)
          const text = event.target.value.trim()
          if (fits(text)) onName(text)
        }}
        onBlur={() => setDraft(null)}
      />
    </label>
  )
}
