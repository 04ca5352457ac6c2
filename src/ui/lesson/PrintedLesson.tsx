'use client'

import Link from 'next/link'
import { useEffect, useState, type ReactNode } from 'react'
import { foundText } from '../../core/lesson/report'
import type { Lesson, LessonView } from '../../core/lesson/lesson-document'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import { PROGRAM } from '../../core/program'
import { Button } from '../parts/Button'
import { ProgressBar } from '../parts/ProgressBar'
import { StudyBody } from '../study/StudyBody'
import type { StudyParts } from '../study/study-context'
import { useTheme } from '../theme/theme'
import { LessonText } from './LessonText'
import { StateNumbers } from './StateNumbers'
import { ViewStage } from './ViewStage'
import { whenShown } from './when-shown'

/** A view as it was drawn, to be printed. */
interface Drawn {
  readonly view: LessonView
  readonly facts: ViewFacts | null
  /** What Check found, where the view is of that. */
  readonly found: string
  /** SVG, or where a picture is none the HTML of what was shown. */
  readonly pictures: readonly string[]
  readonly lost: readonly string[]
}

/**
 * All views of a lesson below each other, for paper: each is opened, drawn, and kept as a picture with its words.
 * @param numbers  with a table of the values of states below each plan
 */
export function PrintedLesson({
  lesson,
  back,
  numbers = false,
  about,
  children,
}: {
  lesson: Lesson
  /** Where it came from. */
  back: string
  numbers?: boolean
  /** What it was made of, for the last line. */
  about: string
  /** What stands below the views. */
  children?: ReactNode
}) {
  const [drawn, setDrawn] = useState<readonly Drawn[]>([])
  const at = drawn.length
  const view = lesson.views.at(at)
  useEffect(() => {
    // Paper is white whatever the theme; nothing of that is kept.
    const { theme } = useTheme.getState()
    document.documentElement.dataset.theme = 'day'
    useTheme.setState({ theme: 'day' })
    return () => {
      document.documentElement.dataset.theme = theme
      useTheme.setState({ theme })
    }
  }, [])
  return (
    <div className="printed">
      <div className="no-print sticky top-0 z-20 flex items-center gap-4 border-b-2 border-ink bg-paper px-4 py-2">
        <Link href={back} className="underline decoration-dotted underline-offset-4">
          Back
        </Link>
        {view ? (
          <>
            <span role="status">
              Preparing view {at + 1} of {lesson.views.length} …
            </span>
            <ProgressBar value={at} max={lesson.views.length} label="Views that are prepared" />
          </>
        ) : (
          <>
            <span role="status">Ready to be printed, on A4 or Letter.</span>
            <Button look="ink" onClick={() => window.print()}>
              Print
            </Button>
          </>
        )}
      </div>
      <article className="printed-sheet">
        <h1 className="font-title text-[28px] leading-8 font-semibold">{lesson.name}</h1>
        {lesson.note && <p className="mt-1 text-ink-soft">{lesson.note}</p>}
        {drawn.map((each) => (
          <PrintedView key={each.view.id} drawn={each} numbers={numbers} />
        ))}
        {!view && children}
        {!view && (
          <p className="mt-6 border-t border-rule-strong pt-1 text-[12px] text-ink-soft">
            {about} Jaunty Pawn {PROGRAM}.
          </p>
        )}
      </article>
      {view && (
        <div className="printed-stage" aria-hidden inert>
          <ViewStage
            key={view.id}
            lesson="print"
            view={view}
            document={lesson.environments[view.environment].document}
          >
            {({ parts, facts, lost }) => (
              <Draw
                parts={parts}
                view={view}
                facts={facts}
                lost={lost}
                onDrawn={(next) => setDrawn((before) => (before.length === at ? [...before, next] : before))}
              />
            )}
          </ViewStage>
        </div>
      )}
    </div>
  )
}

/** Shows a view, waits until it is as it should be, and tells what it looks like. */
function Draw({
  parts,
  view,
  facts,
  lost,
  onDrawn,
}: {
  parts: StudyParts
  view: LessonView
  facts: ViewFacts | null
  lost: readonly string[]
  onDrawn(drawn: Drawn): void
}) {
  const [settled, setSettled] = useState(false)
  useEffect(() => whenShown(parts, view.scene, () => setSettled(true)), [parts, view])
  useEffect(() => {
    if (!settled) return
    // What has just come is drawn in the next frames.
    const timer = setTimeout(() => {
      const { report } = parts.check.store.getState()
      const found = view.scene.stage === 'check' && !view.scene.check && report ? foundText(report) : ''
      // What was found is words; on the board stands the agent where it begins.
      void (found ? Promise.resolve([]) : picturesOf(parts, view)).then((pictures) =>
        onDrawn({ view, facts, found, pictures, lost }),
      )
    }, 400)
    return () => clearTimeout(timer)
    // The last facts are those that are drawn.
  }, [settled, parts, view, facts, lost, onDrawn])
  return <StudyBody bare strip />
}

async function picturesOf({ pictures }: StudyParts, { scene, timeline }: LessonView): Promise<string[]> {
  const strip = timeline || scene.stage === 'learn'
  const found = await Promise.all(
    (strip ? ['board', 'strip'] : ['board']).map(async (slot) => pictures.get(slot)?.svg() ?? ''),
  )
  if (found[0]) return found.filter(Boolean)
  // A table, a list: as it stands on the screen.
  return [document.querySelector('.printed-stage main')?.innerHTML ?? '']
}

function PrintedView({
  drawn: { view, facts, found, pictures, lost },
  numbers,
}: {
  drawn: Drawn
  numbers: boolean
}) {
  return (
    <section className="printed-view">
      <h2 className="font-title text-[21px] font-semibold">{view.title}</h2>
      {facts || !(view.scene.plan || view.scene.learn) ? (
        <LessonText text={view.text} facts={facts} />
      ) : (
        <p>There is no model to compute with: see what Check finds.</p>
      )}
      {found && <LessonText text={found} facts={null} />}
      {lost.map((each) => (
        <p key={each} className="text-[13px] text-ink-soft">
          {each}
        </p>
      ))}
      {pictures.map((picture, i) => (
        <figure key={i} className="printed-picture" dangerouslySetInnerHTML={{ __html: picture }} />
      ))}
      {numbers && view.scene.stage === 'plan' && facts && <StateNumbers facts={facts} />}
    </section>
  )
}
