'use client'

import { useEffect, useState } from 'react'
import { endingNotes } from '../../core/plan/ending-notes'
import { useModel } from './study-context'

/** What is to be known of endings before one trusts a number: that none can be reached, or that the cap is too short. */
export function EndingNotes({ cap }: { cap: number }) {
  const model = useModel((state) => state.compiled?.model)
  const ways = useModel((state) => state.ways)
  const [notes, setNotes] = useState<readonly string[]>([])
  useEffect(() => {
    // After the page is painted, as it may have to be worked out.
    const timer = setTimeout(() => setNotes(model && ways ? endingNotes(model, ways(), cap) : []), 0)
    return () => clearTimeout(timer)
  }, [model, ways, cap])
  return notes.map((note) => (
    <p key={note} role="status" className="border-l-4 border-brass pl-2.5 text-[13px]">
      {note}
    </p>
  ))
}
