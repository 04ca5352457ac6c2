import type { ReactNode } from 'react'

/** A part of a side column that is folded away until it is wanted. */
export function Fold({ title, open, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details className="group" open={open}>
      <summary className="cursor-pointer font-title text-[17px] font-semibold">{title}</summary>
      <div className="space-y-2 pt-2">{children}</div>
    </details>
  )
}
