import type { ReactNode } from 'react'

/** A titled part of a side column. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="space-y-2">
      <h2 className="font-title text-[17px] font-semibold">{title}</h2>
      {children}
    </section>
  )
}
