'use client'

import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react'
import type { ReactNode } from 'react'

/** A part of a side column that is folded away until it is wanted. */
export function Fold({
  title,
  small = false,
  open = false,
  children,
}: {
  title: string
  /** For a fold between fields, not a section of its own. */
  small?: boolean
  /** Whether it is unfolded at first. */
  open?: boolean
  children: ReactNode
}) {
  return (
    <Disclosure as="div" defaultOpen={open} className={small ? 'border-y border-rule py-1.5' : ''}>
      <DisclosureButton
        className={`group flex items-center gap-1.5 ${small ? 'text-[14px] font-semibold' : 'font-title text-[17px] font-semibold'}`}
      >
        <svg viewBox="0 0 10 10" className="size-2.5 group-data-open:rotate-90" aria-hidden>
          <path d="M2 0 9 5 2 10Z" fill="currentColor" />
        </svg>
        {title}
      </DisclosureButton>
      <DisclosurePanel className={`pt-2 ${small ? 'space-y-3' : 'space-y-2'}`}>{children}</DisclosurePanel>
    </Disclosure>
  )
}
