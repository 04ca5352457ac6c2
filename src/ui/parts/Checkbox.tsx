'use client'

import { Checkbox as Box, Field, Label } from '@headlessui/react'
import type { ReactNode } from 'react'

/** Something that is or is not, with its label behind. */
export function Checkbox({
  checked,
  title,
  className = '',
  onChange,
  children,
}: {
  checked: boolean
  title?: string
  className?: string
  onChange(checked: boolean): void
  children: ReactNode
}) {
  return (
    <Field className={`flex items-center gap-1.5 ${className}`} title={title}>
      <Box
        checked={checked}
        onChange={onChange}
        className="group flex size-4 shrink-0 cursor-pointer items-center justify-center rounded-[3px] border border-rule-strong bg-sheet data-checked:border-ink data-checked:bg-ink"
      >
        <svg viewBox="0 0 12 12" className="hidden size-3 group-data-checked:block" aria-hidden>
          <path d="M2 6.5 5 9.5 10 3" fill="none" stroke="var(--paper)" strokeWidth="2" />
        </svg>
      </Box>
      <Label className="cursor-pointer">{children}</Label>
    </Field>
  )
}
