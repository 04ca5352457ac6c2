'use client'

import { useStore } from 'zustand'
import { formatCount, significantNumber } from '../../../core/formats/number'
import { planMethod } from '../../../core/plan/plan-methods'
import type { PlanSession } from '../../../session/plan/plan-session'
import { useParts } from '../../study/study-context'

export function PlanCaption() {
  return <Caption session={useParts().plan} />
}

export function BesideCaption() {
  return <Caption session={useParts().beside} />
}

/** Which plan a board shows, and how far it is. */
function Caption({ session }: { session: PlanSession }) {
  const { method, frame } = useStore(session.store)
  return (
    <p className="flex flex-wrap items-baseline justify-between gap-x-3 text-[13px]">
      <strong className="text-[15px]">{planMethod(method).title}</strong>
      <span className="text-ink-soft">
        {frame
          ? `${formatCount(frame.backups)} backups, sweep ${formatCount(frame.sweep)}; ${frame.finished ? `done, error at most ${significantNumber(frame.bound)}` : 'going on'}`
          : ''}
      </span>
    </p>
  )
}
