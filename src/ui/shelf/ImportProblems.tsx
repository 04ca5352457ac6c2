'use client'

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { Problem } from '../../core/problem'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'

/** What was wrong with something that was asked of the shelf. Nothing was stored. */
export function ImportProblems({
  failure,
  onClose,
}: {
  failure: { title: string; problems: readonly Problem[] } | null
  onClose(): void
}) {
  return (
    <Dialog open={failure !== null} onClose={onClose} className="relative z-50 outline-none">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel className="max-h-full w-[38rem] max-w-full overflow-auto rounded-sm border border-ink bg-paper p-6">
          <DialogTitle className="mb-3 font-title text-xl font-semibold break-words">
            {failure?.title}
          </DialogTitle>
          {failure && <ProblemList problems={failure.problems} />}
          <div className="mt-5 flex items-center justify-between">
            <span className="text-ink-soft">Nothing was changed.</span>
            <Button look="ink" onClick={onClose}>
              Close
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
