'use client'

import { useState } from 'react'
import { takeToken } from '../../session/api/student'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'

/** The token that a student's programs show. */
export function ProgramToken() {
  const [token, setToken] = useState<string | null>(null)
  const { problems, attempt } = useAttempt()
  return (
    <section>
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Your programs</h2>
      <p className="py-2 text-ink-soft">
        A program of yours plays and hands in with a token. Keep it to yourself; a new one ends the one
        before.
      </p>
      {token === null ? (
        <Button onClick={() => void attempt(async () => setToken(await takeToken()))}>
          Show a new token
        </Button>
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
