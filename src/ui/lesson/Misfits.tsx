'use client'

import type { LessonEnvironment } from '../../core/lesson/lesson-document'
import { Button } from '../parts/Button'

/** Says where a view no longer fits its environment, and offers what it was made with. */
export function Misfits({
  environment: { document },
  changed,
  missing,
  asItWas,
  lost,
  onAsItWas,
}: {
  environment: LessonEnvironment
  changed: boolean
  missing: boolean
  /** Whether the environment is shown as it was when the view was made. */
  asItWas: boolean
  lost: readonly string[]
  onAsItWas(asItWas: boolean): void
}) {
  if (!changed && !missing && !lost.length) return null
  return (
    <div role="status" className="border-b border-rule-strong bg-sheet px-4 py-1.5 text-[13.5px]">
      {lost.map((each) => (
        <p key={each} className="text-alert">
          {each}
        </p>
      ))}
      {missing && <p>“{document.name}” is not on this shelf: it is shown as it is kept in the lesson.</p>}
      {changed && (
        <p className="flex flex-wrap items-center gap-2">
          {asItWas
            ? `“${document.name}” is shown as it was when the view was made.`
            : `“${document.name}” has changed on the shelf since the view was made.`}
          <Button className="!px-1.5 !py-0 text-[13px]" onClick={() => onAsItWas(!asItWas)}>
            {asItWas ? 'Show it as it is now' : 'Show it as it was'}
          </Button>
        </p>
      )}
    </div>
  )
}
