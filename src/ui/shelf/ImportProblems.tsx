'use client'

import type { Problem } from '../../core/problem'
import { Button } from '../parts/Button'
import { Modal } from '../parts/Modal'
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
    <Modal open={failure !== null} title={failure?.title ?? ''} width="w-[38rem]" onClose={onClose}>
      {failure && <ProblemList problems={failure.problems} />}
      <div className="mt-5 flex items-center justify-between">
        <span className="text-ink-soft">Nothing was changed.</span>
        <Button look="ink" onClick={onClose}>
          Close
        </Button>
      </div>
    </Modal>
  )
}
