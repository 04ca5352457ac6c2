'use client'

import { useEffect, useRef, useState } from 'react'
import type { LessonRecord } from '../../server/contract/lessons'
import { openSpeakerLine } from '../../session/lesson/speaker-line'
import { Button } from '../parts/Button'
import { LessonText } from './LessonText'

/** The speaker's window: notes of the view that is shown, what comes next, and the time. */
export function SpeakerPage({ record: { id, lesson } }: { record: LessonRecord }) {
  const [at, setAt] = useState<number | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const line = useRef<ReturnType<typeof openSpeakerLine>>(null)
  useEffect(() => {
    const opened = openSpeakerLine(id, ({ at: shown, notes }) => {
      if (shown === undefined) return
      setAt(shown)
      setTold(notes ?? null)
    })
    line.current = opened
    opened?.tell({ ask: true })
    return () => opened?.close()
  }, [id])
  useEffect(() => {
    const press = ({ key, target }: KeyboardEvent) => {
      // A button that has the focus is pressed by Space itself.
      if (key === ' ' && (target as HTMLElement).closest('button')) return
      if (key === 'ArrowRight' || key === 'PageDown' || key === ' ') line.current?.tell({ go: 'next' })
      else if (key === 'ArrowLeft' || key === 'PageUp') line.current?.tell({ go: 'back' })
      else if (key === 'r') line.current?.tell({ go: 'again' })
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [])
  const view = at === null ? undefined : lesson.views[at]
  const next = at === null ? undefined : lesson.views.at(at + 1)
  return (
    <div className="flex min-h-dvh flex-col gap-4 p-5">
      <header className="flex items-center gap-3">
        <h1 className="mr-auto truncate font-title text-[22px] font-semibold">{lesson.name}</h1>
        <Clock />
      </header>
      {view ? (
        <>
          <section aria-label="On the projector" className="border-l-4 border-brass-bright pl-3">
            <p className="text-[13px] text-ink-soft">
              View {at! + 1} of {lesson.views.length}
            </p>
            <h2 className="font-title text-[22px] font-semibold">{view.title || 'Without a title'}</h2>
          </section>
          <section aria-label="Notes" className="min-h-0 flex-1 overflow-y-auto text-[19px] leading-7">
            {view.notes ? (
              <LessonText text={told ?? view.notes} facts={null} />
            ) : (
              <p className="text-ink-soft">No notes for this view.</p>
            )}
          </section>
          <footer className="flex items-center gap-3 border-t border-rule-strong pt-3">
            <p className="mr-auto min-w-0 truncate">
              <span className="text-ink-soft">Next: </span>
              {next ? next.title || 'without a title' : 'the end of the lesson'}
            </p>
            <Button onClick={() => line.current?.tell({ go: 'again' })}>As prepared</Button>
            <Button onClick={() => line.current?.tell({ go: 'back' })}>Back</Button>
            <Button look="ink" onClick={() => line.current?.tell({ go: 'next' })}>
              Next
            </Button>
          </footer>
        </>
      ) : (
        <p className="text-ink-soft">
          Present the lesson in another window of this browser: its notes appear here.
        </p>
      )}
    </div>
  )
}

/** The time of day, and how long this window has been open. */
function Clock() {
  const [began, setBegan] = useState<number | null>(null)
  const [now, setNow] = useState<number | null>(null)
  useEffect(() => {
    const tick = () => setNow(Date.now())
    const start = setTimeout(() => {
      setBegan(Date.now())
      tick()
    })
    const timer = setInterval(tick, 1000)
    return () => {
      clearTimeout(start)
      clearInterval(timer)
    }
  }, [])
  if (now === null || began === null) return null
  const passed = Math.floor((now - began) / 1000)
  return (
    <p className="text-right tabular-nums">
      <span className="block text-[26px] leading-7 font-semibold">
        {new Date(now).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}
      </span>
      <button
        type="button"
        className="text-[13px] text-ink-soft underline decoration-dotted underline-offset-4"
        title="Count from now"
        onClick={() => setBegan(Date.now())}
      >
        {Math.floor(passed / 60)}:{String(passed % 60).padStart(2, '0')} since it was opened
      </button>
    </p>
  )
}
