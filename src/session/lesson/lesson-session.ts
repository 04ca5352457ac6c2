import { createStore, type StoreApi } from 'zustand'
import type { Lesson } from '../../core/lesson/lesson-document'
import { ProblemError } from '../../core/problem'
import type { LessonRecord } from '../../server/contract/lessons'
import { serverLessons, type LessonStore } from '../api/lessons'
import { GoneError, StaleError, UnavailableError } from '../api/send'

export interface LessonState {
  readonly lesson: Lesson
  readonly past: readonly Lesson[]
  readonly future: readonly Lesson[]
  readonly saving: 'saved' | 'waiting' | 'saving' | 'failed' | 'stale' | 'gone'
  /** What went wrong last, in words. */
  readonly problem: string | null
}

/** A lesson that is open: every change is saved by itself, and can be undone. Knows no React. */
export interface LessonSession {
  readonly store: StoreApi<LessonState>
  readonly id: string
  /** Puts a changed lesson in place. Changes with the same `stroke` (other than '') are undone together. */
  edit(lesson: Lesson, stroke?: string): void
  undo(): void
  redo(): void
  /** Saves now what is not saved yet. */
  save(): Promise<void>
  /** Puts it on the shelf once more, as it is here. @returns its number there. @throws ProblemError */
  keepCopy(): Promise<string>
}

/** Quiet time before a change is saved, in milliseconds. */
const SAVE_DELAY = 500
/** Time after which it is tried again when the server could not save, in milliseconds. */
const RETRY_DELAY = 1500
/** Changes that can be undone. */
const HISTORY = 200

export function createLessonSession(
  record: LessonRecord,
  server: Pick<LessonStore, 'write' | 'create'> = serverLessons,
): LessonSession {
  const store = createStore<LessonState>()(() => ({
    lesson: record.lesson,
    past: [],
    future: [],
    saving: 'saved',
    problem: null,
  }))
  let revision = record.revision
  let saved = record.lesson
  let lastStroke = ''
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | undefined

  const stuck = () => ['stale', 'gone'].includes(store.getState().saving)
  const put = (lesson: Lesson, history: Pick<LessonState, 'past' | 'future'>) => {
    store.setState({ lesson, ...history, ...(stuck() ? {} : { saving: 'waiting' }) })
    clearTimeout(timer)
    if (!stuck()) timer = setTimeout(() => void save(), SAVE_DELAY)
  }
  const write = async (lesson: Lesson) => {
    try {
      revision = await server.write(record.id, revision, lesson)
      saved = lesson
      store.setState({ saving: store.getState().lesson === lesson ? 'saved' : 'waiting', problem: null })
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      store.setState({
        saving: error instanceof StaleError ? 'stale' : error instanceof GoneError ? 'gone' : 'failed',
        problem: error.message,
      })
      if (error instanceof UnavailableError) timer = setTimeout(() => void save(), RETRY_DELAY)
    }
  }
  const save = async () => {
    clearTimeout(timer)
    while (running) await running
    const { lesson, saving } = store.getState()
    if (lesson === saved) {
      if (saving === 'waiting') store.setState({ saving: 'saved' })
      return
    }
    if (stuck()) return
    if (saving !== 'failed') store.setState({ saving: 'saving' })
    running = write(lesson).finally(() => (running = undefined))
    await running
  }
  return {
    store,
    id: record.id,
    edit(lesson, stroke = '') {
      const { lesson: before, past } = store.getState()
      if (lesson === before) return
      const joins = stroke !== '' && stroke === lastStroke
      lastStroke = stroke
      put(lesson, { past: joins ? past : [...past.slice(-HISTORY), before], future: [] })
    },
    undo() {
      const { lesson, past, future } = store.getState()
      const before = past.at(-1)
      if (!before) return
      lastStroke = ''
      put(before, { past: past.slice(0, -1), future: [lesson, ...future] })
    },
    redo() {
      const { lesson, past, future } = store.getState()
      if (!future.length) return
      lastStroke = ''
      put(future[0], { past: [...past, lesson], future: future.slice(1) })
    },
    save,
    async keepCopy() {
      const { lesson } = store.getState()
      const { id } = await server.create({ ...lesson, name: `${lesson.name.slice(0, 110)} (mine)` })
      // Nothing is left here that is not kept.
      saved = lesson
      store.setState({ saving: 'saved', problem: null })
      return id
    },
  }
}
