import { useCallback, useState } from 'react'
import { ProblemError, type Problem } from '../../core/problem'

/** Runs what may be refused; what was wrong the last time stands in `problems`. */
export function useAttempt(): {
  readonly problems: readonly Problem[]
  readonly attempt: (run: () => Promise<void>) => Promise<void>
} {
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const attempt = useCallback(async (run: () => Promise<void>) => {
    try {
      setProblems([])
      await run()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }, [])
  return { problems, attempt }
}
