'use client'

import { useState } from 'react'
import type { BinItem, BinKind } from '../../server/contract/bin'
import { emptyFromBin, takeFromBin } from '../../session/api/bin'
import { Button } from '../parts/Button'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { ProblemList } from '../parts/ProblemList'
import { sinceText } from './since'
import { useChange } from '../parts/use-change'

const KIND_WORDS: Readonly<Record<BinKind, string>> = {
  environment: 'environment',
  table: 'learned table',
  comparison: 'comparison',
  lesson: 'lesson',
  exercise: 'exercise',
}

/** What was deleted in the last thirty days. */
export function BinPage({ items }: { items: readonly BinItem[] }) {
  const [asking, setAsking] = useState<string | null>(null)
  const { busy, problems, change } = useChange()
  return (
    <div className="min-h-dvh">
      <PageHeader title="Bin" actions={<ButtonLink href="/">To the shelf</ButtonLink>}>
        What was deleted lies here for 30 days. An environment comes back with its versions, learned tables
        and comparisons.
      </PageHeader>
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
                    <Button
                      disabled={busy}
                      onClick={() =>
                        change(async () => {
                          setAsking(null)
                          await emptyFromBin(kind, id)
                        })
                      }
                    >
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
