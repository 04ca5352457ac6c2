'use client'

import { useState } from 'react'
import type { Seen } from '../../core/exercise/seen'
import { Button } from '../parts/Button'
import { drawnJson, readDrawn, type Drawn } from './drawn'
import { PolicyBoard } from './PolicyBoard'
import { PolicyList } from './PolicyList'
import { useDraft } from './use-draft'

/** A policy, chosen place by place. */
export function PolicyForm({
  id,
  seen,
  onSend,
}: {
  id: string
  seen: Seen
  onSend(content: string): Promise<void>
}) {
  const [draft, setDraft] = useDraft(`policy ${id}`, '{}')
  const [busy, setBusy] = useState(false)
  const drawn = readDrawn(seen, draft)
  const set = (next: Drawn) => setDraft(JSON.stringify(next))
  const missing = seen.states.filter((_, i) => drawn[i] === undefined).length
  const send = async () => {
    setBusy(true)
    await onSend(drawnJson(seen, drawn))
    setBusy(false)
  }
  const form = { seen, drawn, onDrawn: set }
  return (
    <div className="space-y-3">
      {seen.board ? (
        <PolicyBoard {...form} board={seen.board} picture={`/api/class/exercises/${id}/picture`} />
      ) : (
        <PolicyList {...form} />
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button
          look="ink"
          className="h-11 px-6"
          disabled={missing > 0 || busy}
          why="every state needs an action"
          onClick={() => void send()}
        >
          Hand in this policy
        </Button>
        <span role="status" className="text-[15px] text-ink-soft">
          {missing
            ? `${missing} of ${seen.states.length} states have no action yet.`
            : 'Every state has an action.'}
        </span>
      </div>
    </div>
  )
}
