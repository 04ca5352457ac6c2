import type { ReactNode } from 'react'

/** A titled part of a side column. */
export function Section({
  title,
  hint,
  children,
}: {
  title: string
  /** What the word means, on hover. */
  hint?: string
  children: ReactNode
}) {
  return (
    <section className="space-y-2">
      <h2 className="font-title text-[17px] font-semibold" title={hint}>
        {title}
      </h2>
      {children}
    </section>
  )
}
