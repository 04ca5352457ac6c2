'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { useStore } from 'zustand'
import {
  changeView,
  duplicateView,
  moveView,
  removeView,
  retakeView,
  sameButKnobs,
} from '../../core/lesson/lesson'
import type { Lesson, LessonEnvironment } from '../../core/lesson/lesson-document'
import { fileName } from '../../core/formats/file-name'
import type { LessonRecord } from '../../server/contract/lessons'
import { takeScene } from '../../session/lesson/take-scene'
import { serverLessons } from '../../session/api/lessons'
import { createKeptSession } from '../../session/kept-session'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { HistoryButtons } from '../parts/HistoryButtons'
import { Mark } from '../parts/Mark'
import { SavingWords } from '../parts/SavingWords'
import { TitleField } from '../parts/TitleField'
import { downloadText } from '../parts/download'
import { useAttempt } from '../parts/use-attempt'
import { useSavingOnLeave, useUndoKeys } from '../parts/use-kept'
import type { StudyParts } from '../study/study-context'
import { StudyBody } from '../study/StudyBody'
import { ThemeButton } from '../theme/ThemeButton'
import { downloadPage } from './hand-out'
import { LessonVersions } from './LessonVersions'
import { Misfits } from './Misfits'
import { ViewList } from './ViewList'
import { asShown, standingOf, type CurrentDocuments, type Standing } from './standing'
import { ViewStage } from './ViewStage'
import { ViewWordsForm } from './ViewWordsForm'

/** A lesson to be prepared: its views in order, each as it will be shown, and what is said of it. */
export function LessonPage({ record, current }: { record: LessonRecord; current: CurrentDocuments }) {
  const [session] = useState(() => createKeptSession({ ...record, value: record.lesson }, serverLessons))
  const { value: lesson, past, future, saving, problem } = useStore(session.store)
  const [chosen, setChosen] = useState<string | null>(null)
  const [asItWas, setAsItWas] = useState(false)
  const { problems, attempt } = useAttempt()
  const router = useRouter()
  const place = Math.max(
    0,
    lesson.views.findIndex(({ id }) => id === chosen),
  )
  const view = lesson.views.at(place)
  useSavingOnLeave(session)
  const edit = (next: Lesson, stroke?: string) => session.edit(next, stroke)
  useUndoKeys(session)
  const environment = view && lesson.environments[view.environment]
  const standing = environment && standingOf(environment, current)
  return (
    <div className="flex flex-col md:h-dvh md:min-h-[640px]">
      <header className="flex shrink-0 flex-wrap items-center gap-x-3 border-b-2 border-ink px-3 py-1 md:h-12 md:flex-nowrap md:py-0">
        <Link href="/" className="flex items-center gap-1.5 rounded-sm pr-1" aria-label="Back to the shelf">
          <Mark />
          <span className="font-title text-[19px] font-semibold italic">Shelf</span>
        </Link>
        <span className="text-rule-strong" aria-hidden>
          /
        </span>
        <h1 className="sr-only">{lesson.name}: lesson</h1>
        <TitleField
          label="Name of the lesson"
          className="md:max-w-md"
          name={lesson.name}
          onName={(name) => edit({ ...lesson, name })}
        />
        <span className="text-[13px] text-ink-soft">
          lesson, {lesson.views.length} view{lesson.views.length === 1 ? '' : 's'}
        </span>
        <SavingWords state={saving} className="ml-auto" />
        <HistoryButtons
          canUndo={past.length > 0}
          canRedo={future.length > 0}
          undo={session.undo}
          redo={session.redo}
        />
        <LessonVersions session={session} />
        <Button
          look="quiet"
          aria-label="Export the lesson"
          title="Export the lesson (.json)"
          onClick={() =>
            downloadText(fileName(lesson.name, '.json'), JSON.stringify(lesson, null, 2), 'application/json')
          }
        >
          <Icon name="tray" />
        </Button>
        <ThemeButton />
        {view && (
          <Link
            href={`/lesson/${record.id}/print`}
            className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5 hover:border-ink"
            title="All views on paper"
            onClick={() => void session.save()}
          >
            Print
          </Link>
        )}
        {view && (
          <Button
            title="One file for students that needs no server: it opens from a USB stick or in the frame of a course site"
            onClick={() => void attempt(() => downloadPage(asShown(lesson, current)))}
          >
            Hand out (.html)
          </Button>
        )}
        {view && (
          <Link
            href={`/lesson/${record.id}/present?at=${place + 1}`}
            className="rounded-sm bg-ink px-3 py-1 font-semibold text-paper"
            onClick={() => void session.save()}
          >
            Present
          </Link>
        )}
      </header>
      {problems.map((each) => (
        <p key={each.cause} role="alert" className="border-b border-alert bg-alert/10 px-4 py-1.5">
          {each.cause} {each.remedy}
        </p>
      ))}
      {problem && (
        <div role="alert" className="flex items-center gap-3 border-b border-alert bg-alert/10 px-4 py-1.5">
          <span className="flex-1">{problem}</span>
          {(saving === 'stale' || saving === 'gone') && (
            <>
              {saving === 'stale' && <Button onClick={() => window.location.reload()}>Reload</Button>}
              <Button
                onClick={() => void attempt(async () => router.push(`/lesson/${await session.keepCopy()}`))}
              >
                Keep mine as a copy
              </Button>
            </>
          )}
        </div>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-1 md:grid-cols-[14rem_minmax(0,1fr)_24rem] md:grid-rows-1">
        <nav
          className="min-h-0 overflow-y-auto border-r border-rule-strong bg-sheet py-3"
          aria-label="Views of the lesson"
        >
          <ViewList
            lesson={lesson}
            chosen={view?.id ?? null}
            onChoose={(id) => {
              setChosen(id)
              setAsItWas(false)
            }}
            onMove={(id, by) => edit(moveView(lesson, id, by))}
            onDuplicate={(id) => edit(duplicateView(lesson, id))}
            onRemove={(id) => edit(removeView(lesson, id))}
          />
        </nav>
        {view && environment && standing ? (
          <ViewStage
            key={`${view.id} ${asItWas}`}
            lesson={record.id}
            view={view}
            document={asItWas ? environment.document : standing.now}
          >
            {({ parts, facts, lost }) => (
              <>
                <div className="flex min-h-0 min-w-0 flex-col">
                  <Misfits
                    {...standing}
                    asItWas={asItWas}
                    lost={lost}
                    environment={environment}
                    onAsItWas={setAsItWas}
                  />
                  <StudyBody bare strip={view.timeline} />
                </div>
                <aside
                  className="min-h-0 overflow-y-auto border-l border-rule-strong bg-sheet px-4 py-3"
                  aria-label="What is said of it"
                >
                  <Button
                    className="mb-3 w-full"
                    title="Layers, knobs, selection, settings and the moment, as they are on the board now"
                    onClick={() =>
                      edit(
                        retakeView(
                          lesson,
                          view.id,
                          takeScene(parts),
                          environmentOf(parts, standing, environment),
                        ),
                      )
                    }
                  >
                    Keep what the board shows now
                  </Button>
                  <ViewWordsForm
                    view={view}
                    facts={facts}
                    onChange={(part) =>
                      edit(changeView(lesson, view.id, part), `${view.id} ${Object.keys(part)[0]}`)
                    }
                  />
                </aside>
              </>
            )}
          </ViewStage>
        ) : (
          <EmptyLesson />
        )}
      </div>
    </div>
  )
}

/** The environment that a view shows after it was played with: another one where it was drawn on. */
function environmentOf(
  { study }: StudyParts,
  { now }: Standing,
  { shelf, document: then }: LessonEnvironment,
): LessonEnvironment {
  const { document } = study.getState()
  return { shelf: sameButKnobs(document, now) || sameButKnobs(document, then) ? shelf : null, document }
}

function EmptyLesson() {
  return (
    <div className="col-span-2 self-center px-8 text-center">
      <p className="font-title text-2xl">The lesson has no views yet.</p>
      <p className="mx-auto mt-1 max-w-lg text-ink-soft">
        Open an environment, bring it to what the class should see, and choose <b>Add to a lesson</b> under
        the sign for sharing in its head. Views can come from several environments.
      </p>
      <Link
        href="/"
        className="mt-4 inline-block rounded-sm border border-rule-strong bg-sheet px-3 py-1 leading-5"
      >
        To the shelf
      </Link>
    </div>
  )
}
