'use client'

import { useEffect, useState, type ReactNode } from 'react'
import { HAND_IN_WORDS, handInWords } from '../../core/exercise/hand-in-words'
import { formatCount, formatNumber } from '../../core/formats/number'
import { ProblemError } from '../../core/problem'
import type { StudentExercise } from '../../server/contract/classes'
import { handIn, readStudentExercise } from '../../session/api/student'
import { PageHeader, ButtonLink } from '../parts/PageHeader'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { closingText } from './closing'
import { FileForm } from './FileForm'
import { OwnHandIns } from './OwnHandIns'
import { boardOf } from './board-of-walks'
import { OwnStandings } from './OwnStandings'
import { PlayingPrograms } from './PlayingPrograms'
import { PolicyForm } from './PolicyForm'
import { RuleForm } from './RuleForm'

/** How often it is looked whether a hand-in is scored, in milliseconds. */
const LOOKING = 1_000

/** An exercise as a student meets it: what is asked, ways to hand in, and what it came to. */
export function StudentExercisePage({ first }: { first: StudentExercise }) {
  const [exercise, setExercise] = useState(first)
  const { problems, attempt } = useAttempt()
  const { id, name, note, levels, accepts, seen, handIns, left, closesAt } = exercise
  const waiting = handIns.some(({ state }) => state === 'waiting' || state === 'playing')
  useEffect(() => {
    if (!waiting) return
    const timer = setInterval(() => {
      readStudentExercise(id).then(setExercise, (error: unknown) => {
        // The next look may find it again.
        if (!(error instanceof ProblemError)) throw error
      })
    }, LOOKING)
    return () => clearInterval(timer)
  }, [id, waiting])

  const send = (content: Blob | string) =>
    attempt(async () => {
      await handIn(id, content)
      setExercise(await readStudentExercise(id))
    })
  const ways: readonly (readonly [title: string, shown: boolean, content: ReactNode])[] = [
    [
      seen?.board ? 'Draw a policy' : 'Choose a policy',
      accepts.includes('policy') && seen !== null,
      seen && <PolicyForm key="policy" id={id} seen={seen} onSend={send} />,
    ],
    ['Write a rule', accepts.includes('rule'), <RuleForm key="rule" id={id} onSend={send} />],
    [
      'Send a file',
      accepts.some((each) => HAND_IN_WORDS[each].file),
      <FileForm key="file" accepts={accepts} onSend={send} />,
    ],
  ]
  const shown = ways.filter(([, each]) => each)
  const [way, setWay] = useState(shown[0][0])
  return (
    <div className="min-h-dvh">
      <PageHeader
        title={name}
        back="/class"
        backWords="Back to your class"
        actions={<ButtonLink href="/class">Your class</ButtonLink>}
      >
        <span suppressHydrationWarning>{closingText(closesAt)}</span> ·{' '}
        {left === null ? 'unlimited tries' : `${left} ${left === 1 ? 'try' : 'tries'} left`}
      </PageHeader>
      <main className="grid max-w-6xl grid-cols-1 gap-x-12 gap-y-8 px-4 pt-6 pb-16 sm:px-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
        <div className="min-w-0 space-y-8">
          <section className="space-y-2">
            {note && <p className="max-w-prose whitespace-pre-line">{note}</p>}
            <p className="text-[15px] text-ink-soft">
              {levels.length > 1 ? (
                <>
                  Levels:{' '}
                  {levels.map((level) => `${level.name} (${formatNumber(level.points)} points)`).join(', ')}
                  .{' '}
                </>
              ) : (
                <>{formatNumber(levels[0].points)} points. </>
              )}
              Played over {formatCount(exercise.episodes)} episodes a level. You may hand in{' '}
              {handInWords(accepts)}.
            </p>
            {seen?.text && (
              <details>
                <summary className="cursor-pointer font-semibold">Map or rules</summary>
                <pre className="mt-2 max-h-96 overflow-auto rounded-sm border border-rule-strong bg-sheet p-3 text-[13px] leading-5">
                  {seen.text}
                </pre>
              </details>
            )}
          </section>
          <section className="space-y-3">
            <div
              role="tablist"
              aria-label="Ways to hand in"
              className="flex flex-wrap border-b border-rule-strong"
            >
              {shown.map(([title]) => (
                <button
                  key={title}
                  role="tab"
                  type="button"
                  aria-selected={way === title}
                  className="-mb-px border-b-2 border-transparent px-3 py-2 text-ink-soft aria-selected:border-brass-bright aria-selected:font-semibold aria-selected:text-ink"
                  onClick={() => setWay(title)}
                >
                  {title}
                </button>
              ))}
            </div>
            {shown.map(([title, , content]) => (
              <div key={title} role="tabpanel" aria-label={title} hidden={title !== way}>
                {content}
              </div>
            ))}
            <ProblemList problems={problems} />
          </section>
        </div>
        <div className="min-w-0 space-y-8">
          {accepts.includes('program') && <PlayingPrograms id={id} board={boardOf(exercise)} />}
          <OwnHandIns exercise={exercise} />
          <OwnStandings id={id} count={handIns.filter(({ state }) => state === 'scored').length} />
        </div>
      </main>
    </div>
  )
}
