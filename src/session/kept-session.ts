import { createStore, type StoreApi } from 'zustand'
import { ProblemError } from '../core/problem'
import { GoneError, StaleError, UnavailableError } from './api/send'

export interface KeptState<T> {
  readonly value: T
  readonly past: readonly T[]
  readonly future: readonly T[]
  readonly saving: 'saved' | 'waiting' | 'saving' | 'failed' | 'stale' | 'gone'
  /** What went wrong last, in words. */
  readonly problem: string | null
}

/** Something on the shelf that has a name. */
interface Named {
  readonly name: string
}

/** Where it is kept. */
export interface KeptStore<T> {
  /** @returns the new revision. @throws StaleError where it was changed elsewhere */
  write(id: string, revision: number, value: T): Promise<number>
  create(value: T): Promise<{ readonly id: string }>
}

/** A lesson or an exercise that is open: every change is saved by itself, and can be undone. Knows no React. */
export interface KeptSession<T> {
  readonly store: StoreApi<KeptState<T>>
  readonly id: string
  /** Puts a changed one in place. Changes with the same `stroke` (other than '') are undone together. */
  edit(value: T, stroke?: string): void
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

export function createKeptSession<T extends Named>(
  record: { readonly id: string; readonly revision: number; readonly value: T },
  server: KeptStore<T>,
): KeptSession<T> {
  const store = createStore<KeptState<T>>()(() => ({
    value: record.value,
    past: [],
    future: [],
    saving: 'saved',
    problem: null,
  }))
  let revision = record.revision
  let saved = record.value
  let lastStroke = ''
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | undefined

  const stuck = () => ['stale', 'gone'].includes(store.getState().saving)
  const put = (value: T, history: Pick<KeptState<T>, 'past' | 'future'>) => {
    store.setState({ value, ...history, ...(stuck() ? {} : { saving: 'waiting' }) })
    clearTimeout(timer)
    if (!stuck()) timer = setTimeout(() => void save(), SAVE_DELAY)
  }
  const write = async (value: T) => {
    try {
      revision = await server.write(record.id, revision, value)
      saved = value
      store.setState({ saving: store.getState().value === value ? 'saved' : 'waiting', problem: null })
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
    const { value, saving } = store.getState()
    if (value === saved) {
      if (saving === 'waiting') store.setState({ saving: 'saved' })
      return
    }
    if (stuck()) return
    if (saving !== 'failed') store.setState({ saving: 'saving' })
    running = write(value).finally(() => (running = undefined))
    await running
  }
  return {
    store,
    id: record.id,
    edit(value, stroke = '') {
      const { value: before, past } = store.getState()
      if (value === before) return
      const joins = stroke !== '' && stroke === lastStroke
      lastStroke = stroke
      put(value, { past: joins ? past : [...past.slice(-HISTORY), before], future: [] })
    },
    undo() {
      const { value, past, future } = store.getState()
      const before = past.at(-1)
      if (!before) return
      lastStroke = ''
      put(before, { past: past.slice(0, -1), future: [value, ...future] })
    },
    redo() {
      const { value, past, future } = store.getState()
      if (!future.length) return
      lastStroke = ''
      put(future[0], { past: [...past, value], future: future.slice(1) })
    },
    save,
    async keepCopy() {
      const { value } = store.getState()
      const { id } = await server.create({ ...value, name: `${value.name.slice(0, 110)} (mine)` })
      // Nothing is left here that is not kept.
      saved = value
      store.setState({ saving: 'saved', problem: null })
      return id
    },
  }
}
