'use client'

import dynamic from 'next/dynamic'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { withNumbers } from '../../core/lesson/named-numbers'
import type { LessonRecord } from '../../server/contract/lessons'
import { NextView, openView } from '../../session/lesson/opened-view'
import { openSpeakerLine, type SpeakerWord } from '../../session/lesson/speaker-line'
import { Button } from '../parts/Button'
import { Modal } from '../parts/Modal'
import { WordList } from '../parts/WordList'
import { StudyBody } from '../study/StudyBody'
import { FollowSlot } from '../class/FollowSlot'
import { AskableCovers } from './AskableCovers'
import type { Cover } from './covering'
import { LessonText } from './LessonText'
import { Misfits } from './Misfits'
import { Pen } from './Pen'
import { standingOf, type CurrentDocuments } from './standing'
import { ViewStage } from './ViewStage'

/** Loaded when one is first wanted. */
const FollowDialog = dynamic(() => import('../class/FollowDialog').then((module) => module.FollowDialog), {
  loading: () => null,
})

/** Keys of a presentation, those of clickers among them, and what they do. */
const KEYS = [
  ['→, Page down, Space', 'the next view'],
  ['←, Page up', 'the view before'],
  ['R', 'back to the view as it was prepared'],
  ['D', 'draw on the board; again to put the pen away'],
  [
    'H',
    'cover: click a number, an arm, a row, or drag over anything; a click on a cover shows what is under it; Ask below it asks the class that follows',
  ],
  ['U', 'take all covers away'],
  ['S', 'show or hide the timeline'],
  ['A', 'show or hide the side column'],
  ['X', 'show or hide the text'],
  ['F', 'the whole screen, and back'],
  ['W', 'the speaker’s window, with notes and clock'],
  ['G', 'let a class follow on its own pages'],
  ['B', 'a blank screen, and back'],
  ['Esc', 'leave'],
] as const

/** Quiet time before the next view is made ready, in milliseconds. */
const AHEAD = 1500

type Part = 'strip' | 'side' | 'text' | 'pen' | 'covering' | 'blank'

/**
 * A lesson on the projector. Letters are sized by the width of the screen, to be read from the last row: see
 * docs/teaching.md.
 */
export function Presentation({
  record: { id, lesson },
  current,
  first,
}: {
  record: LessonRecord
  current: CurrentDocuments
  /** The view to begin with, from 0. */
  first: number
}) {
  const router = useRouter()
  const [at, setAt] = useState(first)
  const [round, setRound] = useState(0)
  const [asItWas, setAsItWas] = useState(false)
  const [turned, setTurned] = useState<Partial<Record<Part, boolean>>>({})
  const [covers, setCovers] = useState<readonly Cover[]>([])
  const told = useMemo(() => covers.flatMap(({ what }) => what ?? []), [covers])
  const [listed, setListed] = useState(false)
  const [following, setFollowing] = useState(false)
  const line = useRef<ReturnType<typeof openSpeakerLine>>(null)
  const view = lesson.views[at]
  const environment = lesson.environments[view.environment]
  const standing = standingOf(environment, current)
  const on: Readonly<Record<Part, boolean>> = {
    strip: view.timeline,
    side: view.column,
    text: view.text !== '',
    pen: false,
    covering: false,
    blank: false,
    ...turned,
  }
  const turn = (part: Part) => setTurned({ ...turned, [part]: !on[part] })
  /** Takes up the pen or the covers, one in the place of the other; null puts both away. */
  const take = (tool: 'pen' | 'covering' | null) =>
    setTurned({ ...turned, pen: tool === 'pen' && !on.pen, covering: tool === 'covering' && !on.covering })
  const go = useCallback(
    (to: number) => {
      if (to < 0 || to >= lesson.views.length) return
      setAt(to)
      setTurned({})
      setCovers([])
      setAsItWas(false)
    },
    [lesson.views.length],
  )
  const again = () => {
    setRound(round + 1)
    setTurned({})
    setCovers([])
  }
  useEffect(() => {
    const { pathname, search } = window.location
    const address = `?at=${at + 1}`
    if (search !== address) window.history.replaceState(null, '', `${pathname}${address}`)
  }, [at])
  // What comes next is there at once, also where it takes runs.
  const [ahead] = useState(() => new NextView((each, now) => openView(id, each, now)))
  const next = lesson.views.at(at + 1)
  useEffect(() => {
    if (!next) return
    let letGo = () => {}
    const { now } = standingOf(lesson.environments[next.environment], current)
    const timer = setTimeout(() => (letGo = ahead.prepare(next, now)), AHEAD)
    return () => {
      clearTimeout(timer)
      letGo()
    }
  }, [ahead, lesson, next, current])
  const heard = useRef<(word: 'next' | 'back' | 'again') => void>(() => {})
  useEffect(() => {
    heard.current = (word) => (word === 'again' ? again() : go(at + (word === 'next' ? 1 : -1)))
  })
  const shown = useRef<SpeakerWord>({ at })
  const tell = useCallback((word: SpeakerWord) => {
    shown.current = word
    line.current?.tell(word)
  }, [])
  useEffect(() => {
    const opened = openSpeakerLine(id, ({ go: word, ask }) => {
      if (word) heard.current(word)
      if (ask) opened?.tell(shown.current)
    })
    line.current = opened
    opened?.tell(shown.current)
    return () => opened?.close()
  }, [id])
  const leave = () => {
    if (document.fullscreenElement) void document.exitFullscreen()
    router.push(`/lesson/${id}`)
  }
  const press = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    if (event.ctrlKey || event.metaKey || event.altKey) return
    if (
      target.closest('input:not([type=checkbox]), textarea, select, [role=dialog], [role=menu], .cm-editor')
    )
      return
    // Arrows walk the board where that has the focus; the page keys of clickers always turn.
    const walking = target.closest('[role=application], [role=grid], canvas, [role=tablist]') !== null
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    const acts: Readonly<Record<string, (() => void) | undefined>> = {
      ArrowRight: walking ? undefined : () => go(at + 1),
      ArrowLeft: walking ? undefined : () => go(at - 1),
      PageDown: () => go(at + 1),
      PageUp: () => go(at - 1),
      ' ': target.closest('button, [role=button]') ? undefined : () => go(at + 1),
      r: again,
      d: () => take('pen'),
      h: () => take('covering'),
      u: () => setCovers([]),
      s: () => turn('strip'),
      a: () => turn('side'),
      x: () => turn('text'),
      g: () => setFollowing(true),
      b: () => turn('blank'),
      f: () =>
        void (document.fullscreenElement
          ? document.exitFullscreen()
          : document.documentElement.requestFullscreen()),
      w: () => void window.open(`/lesson/${id}/speaker`, `speaker ${id}`, 'popup,width=900,height=700'),
      '?': () => setListed(true),
      Escape: on.pen || on.covering ? () => take(null) : leave,
    }
    const act = acts[key]
    if (!act) return
    event.preventDefault()
    event.stopImmediatePropagation()
    act()
  }
  const pressed = useRef(press)
  useEffect(() => {
    pressed.current = press
  })
  useEffect(() => {
    const hear = (event: KeyboardEvent) => pressed.current(event)
    window.addEventListener('keydown', hear, { capture: true })
    return () => window.removeEventListener('keydown', hear, { capture: true })
  }, [])
  return (
    <div className="fixed inset-0 flex flex-col overflow-hidden bg-paper" data-testid="presentation">
      <h1 className="sr-only">
        {lesson.name}: {view.title}
      </h1>
      <ViewStage
        key={`${view.id} ${round} ${asItWas}`}
        lesson={id}
        view={view}
        document={asItWas ? environment.document : standing.now}
        next={ahead}
      >
        {({ facts, lost }) => (
          <>
            <FollowSlot title={view.title} text={view.text} covers={told} />
            <AskableCovers covering={on.covering} covers={covers} facts={facts} onCovers={setCovers} />
            <ToldSpeaker at={at} notes={withNumbers(view.notes, facts)} tell={tell} />
            <Misfits
              {...standing}
              missing={false}
              asItWas={asItWas}
              lost={lost}
              environment={environment}
              onAsItWas={setAsItWas}
            />
            <div
              className={`lesson-zoom relative flex min-h-0 flex-1 flex-col ${on.side ? 'lesson-beside' : ''} ${on.strip ? 'lesson-above' : ''}`}
            >
              {!on.text && view.title && (
                <h2 className="px-4 pt-2 font-title text-[26px] font-semibold">{view.title}</h2>
              )}
              <StudyBody
                bare={!on.side}
                strip={on.strip}
                before={
                  on.text && (
                    <section
                      className="lesson-large flex shrink-0 flex-col overflow-y-auto border-r-2 border-ink bg-sheet"
                      aria-label="What is said of it"
                    >
                      <h2 className="lesson-title">{view.title}</h2>
                      <LessonText text={view.text} facts={facts} />
                    </section>
                  )
                }
              />
            </div>
          </>
        )}
      </ViewStage>
      {on.pen && <Pen key={`${at} ${round}`} />}
      {/* Above pen and covers, which take the rest of the window. */}
      <footer className="lesson-foot relative z-50 flex shrink-0 items-center gap-x-[1.5vw] border-t border-rule-strong bg-paper px-[1.2vw]">
        <Button
          look="quiet"
          className="lesson-key"
          disabled={at === 0}
          onClick={() => go(at - 1)}
          aria-label="The view before"
        >
          ←
        </Button>
        <span aria-live="polite">
          {at + 1} of {lesson.views.length}
        </span>
        <Button
          look="quiet"
          className="lesson-key"
          disabled={at === lesson.views.length - 1}
          onClick={() => go(at + 1)}
          aria-label="The next view"
        >
          →
        </Button>
        <span className="min-w-0 truncate text-ink-soft">{lesson.name}</span>
        <span className="ml-auto flex gap-[1vw]">
          <Button
            look="quiet"
            className="lesson-key"
            onClick={again}
            title="Back to the view as it was prepared (R)"
          >
            As prepared
          </Button>
          <Button
            look="quiet"
            className="lesson-key"
            aria-pressed={on.pen}
            onClick={() => take('pen')}
            title="Draw on the board (D)"
          >
            Pen
          </Button>
          <Button
            look="quiet"
            className="lesson-key"
            aria-pressed={on.covering}
            onClick={() => take('covering')}
            title="Cover what is to be guessed: click or drag (H)"
          >
            Cover
          </Button>
          {covers.length > 0 && (
            <Button
              look="quiet"
              className="lesson-key"
              onClick={() => setCovers([])}
              title="Take all covers away (U)"
            >
              Uncover
            </Button>
          )}
          <Button
            look="quiet"
            className="lesson-key"
            onClick={() => setFollowing(true)}
            title="Let a class follow on its own pages (G)"
          >
            Class
          </Button>
          <Button look="quiet" className="lesson-key" onClick={() => setListed(true)} title="All keys (?)">
            Keys
          </Button>
          <Button look="quiet" className="lesson-key" onClick={leave} title="Leave the presentation (Esc)">
            Leave
          </Button>
        </span>
      </footer>
      {on.blank && (
        <div className="fixed inset-0 z-50 bg-black" role="presentation" onClick={() => turn('blank')} />
      )}
      {following && <FollowDialog onClose={() => setFollowing(false)} />}
      <Modal open={listed} title="Keys of a presentation" onClose={() => setListed(false)}>
        <WordList lines={KEYS} columns="grid-cols-[auto_1fr]" />
      </Modal>
    </div>
  )
}

/** Tells the speaker's window which view is shown, with its notes. */
function ToldSpeaker({ at, notes, tell }: { at: number; notes: string; tell(word: SpeakerWord): void }) {
  useEffect(() => tell({ at, notes }), [at, notes, tell])
  return null
}
