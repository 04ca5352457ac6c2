'use client'

import Link from 'next/link'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { Scene } from '../../core/lesson/scene'
import { ProblemError } from '../../core/problem'
import type { ClassNow, Following } from '../../server/contract/questions'
import { readFollowed } from '../../session/api/following'
import { followScene, isNear } from '../../session/lesson/follow-scene'
import { coverOf } from '../lesson/covering'
import { FollowedCovers } from '../lesson/Covers'
import { LessonText } from '../lesson/LessonText'
import { ViewStage } from '../lesson/ViewStage'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Mark } from '../parts/Mark'
import { StageNav } from '../study/StageNav'
import { useParts } from '../study/study-context'
import { StudyBody } from '../study/StudyBody'
import { ThemeButton } from '../theme/ThemeButton'
import { QuestionCard } from './QuestionCard'
import { useClassNow } from './use-class-now'

/** What the instructor shows, on a student’s own page: it follows, until the student looks at it on their own. */
export function FollowPage({
  first,
  answered,
}: {
  first: ClassNow
  /** What the student answered to its question before; null for nothing. */
  answered: number | null
}) {
  const { following: now, question } = useClassNow(first)
  const [own, setOwn] = useState<Following | null>(null)
  // A question that was over before the page was opened is not shown on it.
  const [putAway, setPutAway] = useState(first.question?.state === 'open' ? null : first.question?.id)
  const following = own ?? now
  const document = useFollowed(following?.document)
  return (
    <div className="flex flex-col md:h-dvh md:min-h-[560px]">
      <header className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b-2 border-ink px-3 py-1">
        <Link href="/class" aria-label="Back to your class" title="Back to your class">
          <Mark />
        </Link>
        <h1 className="mr-auto min-w-0 truncate font-title text-[19px] font-semibold">
          {following?.title ?? 'What your instructor shows'}
        </h1>
        {following && (
          <Button aria-pressed={own !== null} onClick={() => setOwn(own ? null : now)}>
            {own ? 'Follow again' : 'Explore on my own'}
          </Button>
        )}
        <ThemeButton />
      </header>
      {question && question.id !== putAway && (
        <div className="relative mx-auto w-full max-w-md p-3">
          <QuestionCard
            key={question.id}
            asked={question}
            answered={question.id === first.question?.id ? answered : null}
          />
          {question.state !== 'open' && (
            <Button
              look="quiet"
              className="absolute top-5 right-5"
              aria-label="Put the question away"
              title="Put it away"
              onClick={() => setPutAway(question.id)}
            >
              <Icon name="cross" className="size-4" />
            </Button>
          )}
        </div>
      )}
      {!following && (
        <p className="p-8 text-ink-soft">Nothing is being shown. This page updates by itself.</p>
      )}
      {following && document && (
        <Followed
          key={`${following.document} ${own !== null}`}
          following={following}
          document={document}
          own={own !== null}
        />
      )}
    </div>
  )
}

/** The environment that is followed; null until it is there. */
function useFollowed(name: string | undefined): EnvironmentDocument | null {
  const [found, setFound] = useState<{ name: string; document: EnvironmentDocument } | null>(null)
  useEffect(() => {
    if (name === undefined) return
    let current = true
    readFollowed(name).then(
      (document) => current && setFound({ name, document }),
      (error: unknown) => {
        // Another one is followed by now; its name is on the way.
        if (!(error instanceof ProblemError)) throw error
      },
    )
    return () => {
      current = false
    }
  }, [name])
  return found && found.name === name ? found.document : null
}

function Followed({
  following,
  document,
  own,
}: {
  following: Following
  document: EnvironmentDocument
  own: boolean
}) {
  // What is not near is opened anew; what is near is followed in place.
  const [opened, setOpened] = useState({ round: 0, scene: following.scene })
  const latest = useRef(following.scene)
  useEffect(() => {
    if (!isNear(latest.current, following.scene))
      setOpened(({ round }) => ({ round: round + 1, scene: following.scene }))
    latest.current = following.scene
  }, [following.scene])
  const { title, text } = following
  const view = {
    id: 'followed',
    environment: 'followed',
    title,
    text,
    notes: '',
    timeline: true,
    column: true,
  }
  return (
    <ViewStage
      key={opened.round}
      lesson="followed"
      view={{ ...view, scene: opened.scene }}
      document={document}
    >
      {({ facts }) => (
        <>
          {own && (
            <div className="flex shrink-0 border-b border-rule px-3">
              <StageNav />
            </div>
          )}
          <Follower from={opened.scene} scene={following.scene} />
          {!own && <Covered covers={following.covers} />}
          <StudyBody
            before={
              text && (
                <section className="max-h-44 overflow-y-auto border-b border-rule-strong bg-sheet px-4 py-3 text-[16px] md:max-h-none md:w-80 md:border-r md:border-b-0">
                  <LessonText text={text} facts={facts} />
                </section>
              )
            }
          />
        </>
      )}
    </ViewStage>
  )
}

/** What the instructor has covered, over the same on this page. */
function Covered({ covers }: Pick<Following, 'covers'>) {
  return <FollowedCovers covers={useMemo(() => covers.map(coverOf), [covers])} />
}

/** Brings the study to what is shown, step by step. */
function Follower({ from, scene }: { from: Scene; scene: Scene }) {
  const parts = useParts()
  const at = useRef(from)
  useEffect(() => {
    if (at.current !== scene && isNear(at.current, scene)) followScene(parts, at.current, scene)
    at.current = scene
  }, [parts, scene])
  return null
}
