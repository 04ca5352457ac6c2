'use client'

import { useId, type ReactNode } from 'react'
import { useStudy } from './study-context'

/** A part of a side column that is folded away until it is wanted; the study knows which ones are open. */
export function Fold({
  title,
  name = title,
  small = false,
  open = false,
  children,
}: {
  title: string
  /** What it is known by, where its title changes. */
  name?: string
  /** For a fold between fields, not a section of its own. */
  small?: boolean
  /** Whether it is unfolded at first. */
  open?: boolean
  children: ReactNode
}) {
  const id = useId()
  const shown = useStudy((state) => state.folds[name]) ?? open
  const fold = useStudy((state) => state.fold)
  return (
    <div className={small ? 'border-y border-rule py-1.5' : ''}>
      <button
        type="button"
        aria-expanded={shown}
        aria-controls={shown ? id : undefined}
        className={`flex items-center gap-1.5 ${small ? 'text-[14px] font-semibold' : 'font-title text-[17px] font-semibold'}`}
        onClick={() => fold(name, !shown)}
      >
        <svg viewBox="0 0 10 10" className={`size-2.5 ${shown ? 'rotate-90' : ''}`} aria-hidden>
          <path d="M2 0 9 5 2 10Z" fill="currentColor" />
        </svg>
        {title}
      </button>
      {shown && (
        <div id={id} className={`pt-2 ${small ? 'space-y-3' : 'space-y-2'}`}>
          {children}
        </div>
      )}
    </div>
  )
}
