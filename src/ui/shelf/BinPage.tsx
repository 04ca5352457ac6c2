'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { ProblemError, type Problem } from '../../core/problem'
import type { BinItem, BinKind } from '../../server/contract/bin'
import { emptyFromBin, takeFromBin } from '../../session/api/bin'
import { Button } from '../parts/Button'
import { Mark } from '../parts/Mark'
import { ProblemList } from '../parts/ProblemList'
import { ThemeButton } from '../theme/ThemeButton'
import { sinceText } from './since'

const KIND_WORDS: Readonly<Record<BinKind, string>> = {
  environment: 'environment',
  table: 'learned table',
  comparison: 'comparison',
  lesson: 'lesson',
}

/** What was deleted in the last thirty days. */
export function BinPage({ items }: { items: readonly BinItem[] }) {
  const router = useRouter()
  const [busy, startTransition] = useTransition()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [asking, setAsking] = useState<string | null>(null)
  const change = (run: () => Promise<void>) =>
    startTransition(async () => {
      setProblems([])
      try {
        await run()
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        setProblems(error.problems)
      }
      setAsking(null)
      router.refresh()
    })
  return (
    <div className="min-h-dvh">
      <header className="flex items-center gap-3 px-4 pt-4 sm:px-8 sm:pt-6">
        <Link href="/" aria-label="Back to the shelf" title="Back to the shelf">
          <Mark className="size-12" />
        </Link>
        <div className="mr-auto min-w-0">
          <h1 className="font-title text-[34px] leading-9 font-semibold italic">Bin</h1>
          <p className="text-ink-soft">
            What was deleted lies here for 30 days. An environment comes back with its versions, learned
            tables and comparisons.
          </p>
        </div>
        <Link
          href="/"
          className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5 whitespace-nowrap"
        >
          To the shelf
        </Link>
        <ThemeButton />
      </header>
      <main className="px-4 pt-6 pb-16 sm:px-8">
        {problems.length > 0 && <ProblemList problems={problems} />}
        {items.length === 0 ? (
          <p className="mt-24 text-center font-title text-2xl">The bin is empty.</p>
        ) : (
          <ul className="max-w-4xl divide-y divide-rule border-y border-rule-strong" aria-label="Deleted">
            {items.map(({ kind, id, name, of, deletedAt, goneAt }) => (
              <li key={id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
                <div className="min-w-0 grow basis-72">
                  <p className="truncate font-title text-[18px] leading-6 font-semibold" title={name}>
                    {name}
                  </p>
                  <p className="text-[13px] text-ink-soft" suppressHydrationWarning>
                    {KIND_WORDS[kind]}
                    {of !== null && ` of ${of}`} · deleted {sinceText(new Date(deletedAt), new Date())} · gone
                    for good on {goneAt.slice(0, 10)}
                  </p>
                </div>
                <Button disabled={busy} onClick={() => change(() => takeFromBin(kind, id))}>
                  Bring back
                </Button>
                {asking === id ? (
                  <>
                    <span className="text-[13px]">It cannot be brought back then.</span>
                    <Button disabled={busy} onClick={() => change(() => emptyFromBin(kind, id))}>
                      Delete it for good
                    </Button>
                    <Button look="quiet" onClick={() => setAsking(null)}>
                      Keep it
                    </Button>
                  </>
                ) : (
                  <Button look="quiet" onClick={() => setAsking(id)}>
                    Delete for good …
                  </Button>
                )}
              </li>
            ))}
          </ul>
        )}
      </main>
    </div>
  )
}
