'use client'

import { useId } from 'react'

/** A choice among a few, with its label above. */
export function Select({
  label,
  value,
  options,
  hint,
  onChange,
}: {
  label: string
  value: string
  /** What each value is called. */
  options: Readonly<Record<string, string>>
  hint?: string
  onChange(value: string): void
}) {
  const id = useId()
  return (
    <div className="flex min-w-0 flex-col" title={hint}>
      <label htmlFor={id} className="text-[13px] text-ink-soft">
        {label}
      </label>
      <select
        id={id}
        className="h-[30px] w-full rounded-sm border border-rule-strong bg-sheet px-1 leading-5"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {Object.entries(options).map(([each, title]) => (
          <option key={each} value={each}>
            {title}
          </option>
        ))}
      </select>
    </div>
  )
}
