'use client'

import { useState, type ReactNode } from 'react'
import { Button } from './Button'
import { ProblemList } from './ProblemList'
import { useAttempt } from './use-attempt'

/** The token that somebody’s programs show. */
export function ProgramToken({ take, children }: { take(): Promise<string>; children: ReactNode }) {
  const [token, setToken] = useState<string | null>(null)
  const { problems, attempt } = useAttempt()
  return (
    <section>
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Your programs</h2>
      <p className="py-2 text-ink-soft">{children}</p>
      {token === null ? (
        <Button onClick={() => void attempt(async () => setToken(await take()))}>Show a new token</Button>
      ) : (
        <div className="flex flex-wrap items-center gap-2">
          <code className="rounded-sm border border-rule-strong bg-sheet px-2 py-1 break-all select-all">
            {token}
          </code>
          <Button onClick={() => void navigator.clipboard?.writeText(token)}>Copy</Button>
        </div>
      )}
      <ProblemList problems={problems} />
    </section>
  )
}
