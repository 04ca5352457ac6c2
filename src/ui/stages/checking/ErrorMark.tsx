'use client'

import { useStore } from 'zustand'
import { useParts } from '../../study/study-context'

/** Beside Check while something is wrong with the environment. */
export function ErrorMark() {
  const { check } = useParts()
  const errors = useStore(
    check.store,
    ({ report }) => report?.findings.filter(({ severity }) => severity === 'error').length ?? 0,
  )
  if (!errors) return null
  const words = `${errors} ${errors === 1 ? 'error' : 'errors'}`
  return (
    <span
      className="ml-1 inline-block size-2 rounded-full bg-alert align-super"
      role="img"
      aria-label={words}
      title={words}
    />
  )
}
