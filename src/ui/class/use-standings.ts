import { useEffect, useState } from 'react'
import { ProblemError } from '../../core/problem'
import type { Standings } from '../../server/contract/classes'

/** How often the standings are asked for, in milliseconds. */
const LOOKING = 3_000

/** The standings, as they are now. @param more  when it changes, they are asked for at once */
export function useStandings(read: () => Promise<Standings>, more: unknown = null): Standings | null {
  const [standings, setStandings] = useState<Standings | null>(null)
  useEffect(() => {
    let gone = false
    const look = () =>
      read().then(
        (found) => {
          if (!gone) setStandings(found)
        },
        (error: unknown) => {
          // What is there stays until the server answers again.
          if (!(error instanceof ProblemError)) throw error
        },
      )
    void look()
    const timer = setInterval(() => void look(), LOOKING)
    return () => {
      gone = true
      clearInterval(timer)
    }
  }, [read, more])
  return standings
}
