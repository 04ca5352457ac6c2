'use client'

import { useStore } from 'zustand'
import { formatCount } from '../../../core/formats/number'
import { useParts } from '../../study/study-context'

/** Above the board in Check: whose episode is on it, and how to go on. */
export function CheckBar() {
  const { check } = useParts()
  const { walked, played, at } = useStore(check.store)
  if (walked.kind !== 'hand')
    return (
      <span className="min-w-0 truncate text-[13px]" title={walked.title}>
        <b>{walked.kind === 'story' ? 'The shortest way to it:' : 'An episode:'}</b> {walked.title}
      </span>
    )
  const over = played && at === played.walk.outcomes.length ? played.over : null
  return (
    <span className="text-[13px] text-ink-soft">
      {over === null
        ? 'Take an action: by its key, by a click on where it leads, or from the list.'
        : over === 'ended'
          ? `The episode has ended after ${formatCount(at)} steps.`
          : `The step limit cut the episode off after ${formatCount(at)} steps; that is no ending.`}
    </span>
  )
}
