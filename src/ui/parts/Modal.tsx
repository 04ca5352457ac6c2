'use client'

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { ReactNode } from 'react'

/** A sheet over the page, with a title; Escape and a click beside it close it. */
export function Modal({
  open,
  title,
  width = '',
  onClose,
  children,
}: {
  open: boolean
  title: string
  /** A class for the width; as wide as its contents when left out. */
  width?: string
  onClose(): void
  children: ReactNode
}) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50 outline-none">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel
          className={`max-h-full max-w-full overflow-auto rounded-sm border border-ink bg-paper p-6 ${width}`}
        >
          <DialogTitle className="mb-3 font-title text-xl font-semibold break-words">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  )
}
