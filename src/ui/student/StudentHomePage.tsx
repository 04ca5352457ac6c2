'use client'

import Link from 'next/link'
import { formatNumber } from '../../core/formats/number'
import type { StudentHome } from '../../server/contract/classes'
import type { ClassNow } from '../../server/contract/questions'
import { leaveClass, takeToken } from '../../session/api/student'
import { Button } from '../parts/Button'
import { PageHeader } from '../parts/PageHeader'
import { ProgramToken } from '../parts/ProgramToken'
import { closingText } from './closing'

import { QuestionCard } from './QuestionCard'
import { useClassNow } from './use-class-now'
import { goAnew } from '../class/go-anew'

/** What a student finds in the class. */
export function StudentHomePage({
  home: { className, name, alias, exercises },
  first,
  answered,
}: {
  home: StudentHome
  /** What goes on in the class. */
  first: ClassNow
  /** What the student answered to its question before; null for nothing. */
  answered: number | null
}) {
  const { question, following } = useClassNow(first)
  return (
    <div className="min-h-dvh">
      <PageHeader title={className} back={null}>
        You are {name}
        {alias !== name && <>, or {alias} where names are hidden</>}.
      </PageHeader>
      <main className="max-w-2xl space-y-8 px-4 pt-6 pb-16 sm:px-8">
        {question && (
          <QuestionCard
            key={question.id}
            asked={question}
            answered={question.id === first.question?.id ? answered : null}
          />
        )}
        {following && (
          <Link
            href="/class/follow"
            prefetch={false}
            className="flex items-baseline gap-3 rounded-sm border border-ink bg-brass-bright/20 px-4 py-3"
          >
            <span className="mr-auto min-w-0 truncate">
              Your instructor shows <b>{following.title}</b>
            </span>
            <span className="underline">Follow</span>
          </Link>
        )}
        <section>
          <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Exercises</h2>
          {exercises.length === 0 && <p className="pt-3 text-ink-soft">Nothing is handed out yet.</p>}
          <ul aria-label="Exercises">
            {exercises.map((each) => (
              <li key={each.id} className="border-b border-rule">
                <Link
                  href={`/class/exercise/${each.id}`}
                  prefetch={false}
                  className="flex flex-wrap items-baseline gap-x-3 py-3 hover:bg-rule/30"
                >
                  <span className="mr-auto min-w-0 font-title text-[19px] font-semibold">{each.name}</span>
                  <span className="tabular-nums">
                    {each.best === null ? '–' : formatNumber(each.best)} of {formatNumber(each.of)} points
                  </span>
                  <span className="w-full text-[13px] text-ink-soft" suppressHydrationWarning>
                    {closingText(each.closesAt)}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <ProgramToken take={takeToken}>
          A program of yours plays and hands in with a token. Keep it to yourself; a new one ends the one
          before.
        </ProgramToken>
        <Button
          look="quiet"
          className="text-ink-soft"
          onClick={() => void leaveClass().then(() => goAnew('/join'))}
        >
          Leave this class on this device
        </Button>
      </main>
    </div>
  )
}
