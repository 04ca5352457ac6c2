'use client'

import { kindOf } from '../../core/kinds/kinds'
import { Button } from '../parts/Button'
import { useStudy } from './study-context'

/** Says that the truth is hidden, and uncovers it. */
export function RevealNote() {
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  const { uncovered } = kindOf(document)
  if (!uncovered) return null
  return (
    <div className="space-y-2 border-l-4 border-brass-bright pl-2.5">
      <p>The truth is hidden from the class, and with it everything that is computed from it.</p>
      <Button onClick={() => edit(uncovered(document))}>Reveal the truth</Button>
    </div>
  )
}
