import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { ProblemError, type Problem } from '../../core/problem'

/** Runs what changes something on the server, and shows the page as it then is; what was refused stands in `problems`. */
export function useChange(): {
  readonly busy: boolean
  readonly problems: readonly Problem[]
  readonly change: (run: () => Promise<void>) => void
} {
  const router = useRouter()
  const [busy, startTransition] = useTransition()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const change = (run: () => Promise<void>) =>
    startTransition(async () => {
      setProblems([])
      try {
        await run()
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        setProblems(error.problems)
      }
      router.refresh()
    })
  return { busy, problems, change }
}
