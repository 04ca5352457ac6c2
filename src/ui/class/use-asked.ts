import { useCallback, useEffect, useState } from 'react'
import { ProblemError } from '../../core/problem'
import type { AskedQuestion, QuestionState } from '../../server/contract/questions'
import { changeQuestion, readQuestion } from '../../session/api/questions'

/** How often the answers are asked for while it is open, in milliseconds. */
const LOOKING = 700

/**
 * A question with its answers, as they come.
 * @param first  as it was when the page was made; null to ask for it
 */
export function useAsked(
  classId: string,
  id: string,
  first: AskedQuestion | null = null,
): { readonly asked: AskedQuestion | null; readonly become: (state: QuestionState) => Promise<void> } {
  const [asked, setAsked] = useState(first)
  const waiting = asked === null || asked.state === 'open'
  useEffect(() => {
    if (!waiting) return
    const look = () =>
      readQuestion(classId, id).then(setAsked, (error: unknown) => {
        // What is there stays until the server answers again.
        if (!(error instanceof ProblemError)) throw error
      })
    if (first === null) void look()
    const timer = setInterval(() => void look(), LOOKING)
    return () => clearInterval(timer)
  }, [classId, id, first, waiting])
  const become = useCallback(
    async (state: QuestionState) => {
      await changeQuestion(classId, id, state)
      setAsked(await readQuestion(classId, id))
    },
    [classId, id],
  )
  return { asked, become }
}
