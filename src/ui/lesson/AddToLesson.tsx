'use client'

import Link from 'next/link'
import { useEffect, useState } from 'react'
import { addView } from '../../core/lesson/lesson'
import { newLesson } from '../../core/lesson/lesson-document'
import { ProblemError } from '../../core/problem'
import type { LessonSummary } from '../../server/contract/lessons'
import { serverLessons } from '../../session/api/lessons'
import { takeScene } from '../../session/lesson/take-scene'
import { Button } from '../parts/Button'
import { Modal } from '../parts/Modal'
import { remember, remembered } from '../parts/remembered'
import { Select } from '../parts/Select'
import { STAGES } from '../stages/stages'
import { useParts } from '../study/study-context'

/** The lesson that a view was added to last, in this browser. */
const LAST = 'jaunty-pawn lesson'
const NEW = 'new'

/** Keeps what is on the screen as a view of a lesson. */
export function AddToLesson({ open, onClose }: { open: boolean; onClose(): void }) {
  const [done, setDone] = useState<{ id: string; name: string; views: number } | null>(null)
  return (
    <Modal
      open={open}
      title="Add this view to a lesson"
      width="w-[32rem]"
      onClose={() => {
        setDone(null)
        onClose()
      }}
    >
      {done ? (
        <div className="space-y-3">
          <p role="status">
            It is view {done.views} of “{done.name}”.
          </p>
          <div className="flex gap-2">
            <Button
              look="ink"
              onClick={() => {
                setDone(null)
                onClose()
              }}
            >
              Go on here
            </Button>
            <Link
              href={`/lesson/${done.id}`}
              className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5"
            >
              Open the lesson
            </Link>
          </div>
        </div>
      ) : (
        <AddForm onDone={setDone} />
      )}
    </Modal>
  )
}

function AddForm({ onDone }: { onDone(done: { id: string; name: string; views: number }): void }) {
  const parts = useParts()
  const { id: shelf, document, stage } = parts.study.getState()
  const [lessons, setLessons] = useState<readonly LessonSummary[] | null>(null)
  const [chosen, setChosen] = useState(NEW)
  const [name, setName] = useState('Lesson')
  const [title, setTitle] = useState(`${document.name}: ${STAGES[stage].title}`)
  const [text, setText] = useState('')
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    let gone = false
    serverLessons.list().then(
      (found) => {
        if (gone) return
        setLessons(found)
        const last = remembered(LAST)
        if (found.some(({ id }) => id === last)) setChosen(last!)
      },
      (error: Error) => !gone && setProblem(error.message),
    )
    return () => {
      gone = true
    }
  }, [])
  const add = async () => {
    setBusy(true)
    setProblem(null)
    try {
      const words = { title: title.trim(), text, notes: '' }
      const scene = takeScene(parts)
      const environment = { shelf, document }
      let id: string
      let lesson = newLesson(name.trim() || 'Lesson')
      if (chosen === NEW) {
        lesson = addView(lesson, words, scene, environment)
        id = (await serverLessons.create(lesson)).id
      } else {
        const record = await serverLessons.read(chosen)
        lesson = addView(record.lesson, words, scene, environment)
        id = chosen
        await serverLessons.write(id, record.revision, lesson)
      }
      remember(LAST, id)
      onDone({ id, name: lesson.name, views: lesson.views.length })
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblem(error.message)
    } finally {
      setBusy(false)
    }
  }
  const field = 'w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5'
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        void add()
      }}
    >
      <Select
        label="Lesson"
        value={chosen}
        options={{
          ...Object.fromEntries((lessons ?? []).map((each) => [each.id, each.name])),
          [NEW]: 'A new lesson …',
        }}
        onChange={setChosen}
      />
      {chosen === NEW && (
        <label className="block">
          <span className="text-[13px] text-ink-soft">Its name</span>
          <input
            className={field}
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
      )}
      <label className="block">
        <span className="text-[13px] text-ink-soft">Title of the view</span>
        <input
          className={field}
          value={title}
          maxLength={200}
          data-autofocus
          onChange={(event) => setTitle(event.target.value)}
        />
      </label>
      <label className="block">
        <span className="text-[13px] text-ink-soft">Text, which can be written later</span>
        <textarea
          className={field}
          rows={3}
          value={text}
          maxLength={20_000}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <p className="text-[13px] text-ink-soft">
        Kept are the stage, the view, the layers, the selection, the knobs, the method with its settings, and
        the very moment of the timeline.
      </p>
      {problem && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {problem}
        </p>
      )}
      <Button look="ink" type="submit" disabled={busy}>
        Add it
      </Button>
    </form>
  )
}
