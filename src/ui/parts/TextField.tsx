'use client'

import { useId, type InputHTMLAttributes } from 'react'

/** A line of text in a form, with its label above. */
export function TextField({
  label,
  className = '',
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & { label: string }) {
  const id = useId()
  return (
    <div className="flex min-w-0 flex-col justify-end">
      <label htmlFor={id} className="text-[13px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        className={`min-h-[30px] w-full rounded-sm border border-rule-strong bg-sheet px-2 leading-5 ${className}`}
        {...rest}
      />
    </div>
  )
}
