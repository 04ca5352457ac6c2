'use client'

import { useState, type FormEvent } from 'react'
import { joinClass } from '../../session/api/student'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { TextField } from '../parts/TextField'
import { useAttempt } from '../parts/use-attempt'
import { goAnew } from './go-anew'

/** A student says the code of a class, and a name. */
export function JoinForm({ code: given }: { code: string }) {
  const [code, setCode] = useState(given)
  const [name, setName] = useState('')
  const [busy, setBusy] = useState(false)
  const { problems, attempt } = useAttempt()
  const enter = async (event: FormEvent) => {
    event.preventDefault()
    setBusy(true)
    await attempt(async () => {
      await joinClass(code, name)
      goAnew('/class')
    })
    setBusy(false)
  }
  return (
    <form className="space-y-3" onSubmit={(event) => void enter(event)}>
      <TextField
        label="Class code"
        className="h-11 font-mono text-[20px] tracking-[0.2em] uppercase"
        autoComplete="off"
        autoCapitalize="characters"
        spellCheck={false}
        maxLength={12}
        required
        value={code}
        onChange={(event) => setCode(event.target.value)}
      />
      <TextField
        label="Your name (optional)"
        className="h-11"
        autoComplete="nickname"
        maxLength={40}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" look="ink" className="h-11 w-full sm:w-auto sm:px-6" disabled={busy}>
        Enter the class
      </Button>
      <ProblemList problems={problems} />
    </form>
  )
}
