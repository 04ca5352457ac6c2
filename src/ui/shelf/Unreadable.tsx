'use client'

import Link from 'next/link'
import type { Problem } from '../../core/problem'
import { Mark } from '../parts/Mark'
import { ProblemList } from '../parts/ProblemList'

/** In place of an environment whose row in the database cannot be read. */
export function Unreadable({ id, problems }: { id: string; problems: readonly Problem[] }) {
  const look = 'rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5'
  return (
    <main className="mx-auto flex min-h-dvh max-w-xl flex-col items-start justify-center gap-3 px-6">
      <Mark className="size-16 rotate-90" />
      <h1 className="font-title text-3xl font-semibold">This environment cannot be read</h1>
      <p>
        The rest of the shelf is as it was. What stands in the database for it can be exported to the letter.
        Mended there, it can be imported as a file; a backup may have it whole.
      </p>
      <ProblemList problems={problems} />
      <div className="flex gap-2">
        <a href={`/api/environments/${id}/text`} download="environment.txt" className={look}>
          Export its text
        </a>
        <Link href="/" className={look}>
          To the shelf
        </Link>
      </div>
    </main>
  )
}
