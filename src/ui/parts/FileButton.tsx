'use client'

import { useEffect, useEffectEvent, useRef, type ReactNode } from 'react'
import { Button } from './Button'

/** A button that asks for a file. */
export function FileButton({
  label,
  accept,
  onFile,
  children,
  ...looks
}: {
  /** What the file is, for those who cannot see the button. */
  label: string
  /** Endings and types, as browsers take them. */
  accept: string
  onFile(file: File): void
  children: ReactNode
  look?: 'quiet'
  className?: string
  disabled?: boolean
}) {
  const input = useRef<HTMLInputElement>(null)
  const readChosen = (from: HTMLInputElement) => {
    const chosen = from.files?.[0]
    // The same file may be chosen again, and none is read twice.
    from.value = ''
    if (chosen) onFile(chosen)
  }
  // A file may have been chosen before the page was awake.
  const readEarly = useEffectEvent(() => readChosen(input.current!))
  useEffect(() => readEarly(), [])
  return (
    <>
      <Button {...looks} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        className="hidden"
        accept={accept}
        aria-label={label}
        onChange={(event) => readChosen(event.target)}
      />
    </>
  )
}
