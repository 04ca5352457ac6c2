'use client'

import { useState } from 'react'
import type { Lesson } from '../../core/lesson/lesson-document'
import { Button } from '../parts/Button'
import { HistoryButtons } from '../parts/HistoryButtons'
import { Mark } from '../parts/Mark'
import { STAGES } from '../stages/stages'
import { ExportMenu } from '../study/ExportMenu'
import { HelpDialog } from '../study/HelpDialog'
import { StageNav } from '../study/StageNav'
import { useParts, useStudy } from '../study/study-context'
import { StudyBody } from '../study/StudyBody'
import { historyOf } from '../study/use-stage'
import { ThemeButton } from '../theme/ThemeButton'
import { LessonText } from './LessonText'
import { ViewStage } from './ViewStage'

/**
 * A lesson for students, on a page without a server: all views, to be read and played with. Nothing is saved; what is to be
 * kept is exported.
 */
export function HandOut({ lesson }: { lesson: Lesson }) {
  const [at, setAt] = useState(0)
  const [round, setRound] = useState(0)
  const view = lesson.views[at]
  const { document } = lesson.environments[view.environment]
  return (
    <div className="flex flex-col md:h-dvh md:min-h-[560px]" data-testid="hand-out">
      <ViewStage key={`${view.id} ${round}`} lesson="hand-out" view={view} document={document}>
        {({ facts, lost }) => (
          <>
            <header className="flex shrink-0 flex-wrap items-center gap-x-3 border-b-2 border-ink px-3 md:h-12 md:flex-nowrap">
              <Mark />
              <h1 className="min-w-0 truncate font-title text-[19px] font-semibold">{lesson.name}</h1>
              <StageNav />
              <div className="flex items-center">
                <History />
                <ExportMenu />
                <ThemeButton />
                <HelpDialog />
              </div>
            </header>
            {lost.map((each) => (
              <p key={each} role="status" className="border-b border-rule-strong bg-sheet px-4 py-1.5">
                {each}
              </p>
            ))}
            <StudyBody
              before={
                view.text && (
                  <section
                    className="w-80 overflow-y-auto border-r border-rule-strong bg-sheet px-4 py-3 text-[16px]"
                    aria-label="What is said of it"
                  >
                    <h2 className="mb-2 font-title text-[21px] leading-6 font-semibold">{view.title}</h2>
                    <LessonText text={view.text} facts={facts} />
                  </section>
                )
              }
            />
          </>
        )}
      </ViewStage>
      <footer className="flex shrink-0 flex-wrap items-center gap-x-3 border-t border-rule-strong px-3 py-1 text-[14px]">
        {lesson.views.length > 1 && (
          <>
            <Button
              look="quiet"
              disabled={at === 0}
              aria-label="The view before"
              onClick={() => setAt(at - 1)}
            >
              ←
            </Button>
            <span aria-live="polite">
              {at + 1} of {lesson.views.length}
            </span>
            <Button
              look="quiet"
              disabled={at === lesson.views.length - 1}
              aria-label="The next view"
              onClick={() => setAt(at + 1)}
            >
              →
            </Button>
          </>
        )}
        <Button
          look="quiet"
          title="Back to the view as it was handed out"
          onClick={() => setRound(round + 1)}
        >
          As handed out
        </Button>
        <span className="text-ink-soft">
          Everything can be tried and changed; nothing is saved. What you want to keep, export.
        </span>
        <span className="ml-auto text-ink-soft">Made with Jaunty Pawn</span>
      </footer>
    </div>
  )
}

function History() {
  const parts = useParts()
  const stage = useStudy((state) => state.stage)
  // Drawn anew when either list changes.
  useStudy((state) => state.past.length + state.future.length)
  return <HistoryButtons {...historyOf(parts, STAGES[stage])} />
}
