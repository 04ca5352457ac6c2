'use client'

import type { AskedQuestion, QuestionState } from '../../server/contract/questions'
import { Button } from '../parts/Button'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { SpreadView } from './SpreadView'
import { useAsked } from './use-asked'

/** A question on the projector: the answers as they grow, then what is true. */
export function QuestionPage({
  classId,
  className,
  first,
}: {
  classId: string
  className: string
  first: AskedQuestion
}) {
  const { problems, attempt } = useAttempt()
  const { asked, become: turn } = useAsked(classId, first.id, first)
  const { question, state, truth, spread } = asked ?? first
  const become = (next: QuestionState) => void attempt(() => turn(next))
  return (
    <div className="min-h-dvh">
      <PageHeader
        title={question.text}
        back={`/classes/${classId}`}
        backWords="Back to the class"
        actions={<ButtonLink href={`/classes/${classId}`}>{className}</ButtonLink>}
      >
        {spread.answers} answer{spread.answers === 1 ? '' : 's'}
        {state === 'open' ? ' so far' : state === 'closed' ? '; closed' : ''}
      </PageHeader>
      <main className="space-y-6 px-4 pt-6 pb-16 sm:px-8">
        <SpreadView question={question} spread={spread} truth={state === 'revealed' ? truth : null} />
        <div className="flex flex-wrap gap-2">
          {state === 'open' && <Button onClick={() => become('closed')}>Stop taking answers</Button>}
          {state !== 'revealed' && (
            <Button look="ink" onClick={() => become('revealed')}>
              {truth ? 'Reveal the answer' : 'Show the results to the class'}
            </Button>
          )}
          {state === 'closed' && <Button onClick={() => become('open')}>Reopen it</Button>}
        </div>
        <ProblemList problems={problems} />
      </main>
    </div>
  )
}
