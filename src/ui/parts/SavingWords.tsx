import type { Saving } from '../../session/study/study-store'

const WORDS: Readonly<Record<Saving['state'], string>> = {
  saved: 'Saved',
  waiting: 'Saving …',
  saving: 'Saving …',
  failed: 'Not saved',
  stale: 'Not saved',
  gone: 'Not saved',
}

/** How what is on screen stands to what is on the shelf. */
export function SavingWords({ state, className = '' }: { state: Saving['state']; className?: string }) {
  const words = WORDS[state]
  return (
    <span
      role="status"
      className={`text-[13px] ${words === 'Not saved' ? 'text-alert' : 'text-ink-soft'} ${className}`}
    >
      {words}
    </span>
  )
}
