'use client'

import { useId, useState } from 'react'
import { readNumber } from '../../core/formats/read-number'

interface Props {
  readonly label: string
  readonly value: number
  readonly min: number
  readonly max: number
  /** Only whole numbers are taken. */
  readonly whole?: boolean
  /** True when `min` itself is too small. */
  readonly aboveMin?: boolean
  readonly unit?: string
  /** What the number does, in one sentence. */
  readonly hint?: string
  readonly disabled?: boolean
  onChange(value: number): void
}

/** A number as text: takes effect as soon as it is one in range, and says what is wrong when it is not. */
export function NumberField({
  label,
  value,
  min,
  max,
  whole,
  aboveMin,
  unit,
  hint,
  disabled,
  onChange,
}: Props) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const read = (text: string) => {
    const number = readNumber(text) ?? NaN
    const fits =
      number >= min && number <= max && !(aboveMin && number === min) && (!whole || Number.isInteger(number))
    return fits ? number : undefined
  }
  const wrong = draft !== null && read(draft) === undefined
  const range = `${whole ? 'a whole number ' : ''}${aboveMin ? 'above' : 'from'} ${min} to ${max}`
  return (
    <div className="flex min-w-0 flex-col justify-end" title={hint}>
      <label htmlFor={id} className="text-[13px] text-ink-soft">
        {label}
        {unit && <span> ({unit})</span>}
      </label>
      <input
        id={id}
        inputMode="decimal"
        autoComplete="off"
        disabled={disabled}
        className={`h-[30px] w-full rounded-sm border bg-sheet px-2 leading-5 disabled:opacity-50 ${wrong ? 'border-alert' : 'border-rule-strong'}`}
        value={draft ?? String(value)}
        aria-invalid={wrong}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onChange={(event) => {
          setDraft(event.target.value)
          const number = read(event.target.value)
          if (number !== undefined && number !== value) onChange(number)
        }}
        onBlur={() => setDraft(null)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' || event.key === 'Escape') setDraft(null)
        }}
      />
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="text-[12px] leading-4 text-alert">
          Write {range}.
        </span>
      )}
    </div>
  )
}
