'use client'

import { useState, type FormEvent } from 'react'
import { enterAsOwner } from '../../session/api/student'
import { Button } from '../parts/Button'
import { PageHeader } from '../parts/PageHeader'
import { ProblemList } from '../parts/ProblemList'
import { TextField } from '../parts/TextField'
import { useAttempt } from '../parts/use-attempt'
import { JoinForm } from './JoinForm'
import { goAnew } from './go-anew'

/** Where one enters: students by the code of their class, the instructor by the pass phrase. */
export function EnterPage() {
  return (
    <div className="min-h-dvh">
      <PageHeader title="Jaunty Pawn" back={null}>
        Small worlds, and agents that learn them.
      </PageHeader>
      <main className="grid max-w-4xl gap-x-12 gap-y-8 px-4 pt-8 pb-16 sm:px-8 md:grid-cols-2">
        <section>
          <h2 className="mb-2 border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
            Students
          </h2>
          <JoinForm code="" />
        </section>
        <section>
          <h2 className="mb-2 border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
            Instructor
          </h2>
          <PhraseForm />
        </section>
      </main>
    </div>
  )
}

function PhraseForm() {
  const [phrase, setPhrase] = useState('')
  const { problems, attempt } = useAttempt()
  const enter = (event: FormEvent) => {
    event.preventDefault()
    void attempt(async () => {
      await enterAsOwner(phrase)
      goAnew('/')
    })
  }
  return (
    <form className="space-y-3" onSubmit={enter}>
      <TextField
        label="Pass phrase"
        type="password"
        autoComplete="current-password"
        value={phrase}
        required
        onChange={(event) => setPhrase(event.target.value)}
      />
      <Button type="submit" look="plain">
        Open the shelf
      </Button>
      <ProblemList problems={problems} />
    </form>
  )
}
