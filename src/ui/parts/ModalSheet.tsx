'use client'

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { ReactNode } from 'react'

export interface ModalProps {
  readonly open: boolean
  readonly title: string
  /** A class for the width; as wide as its contents when left out. */
  readonly width?: string
  onClose(): void
  readonly children: ReactNode
}

/** The sheet of a `Modal`, which loads it. */
export function ModalSheet({ open, title, width = '', onClose, children }: ModalProps) {
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
