import { createStore, type StoreApi } from 'zustand'
import { newComparison, type Comparison } from '../../core/compare/comparison'
import { ProblemError } from '../../core/problem'
import type { ComparisonSummary } from '../../server/contract/comparisons'
import type { ComparisonStore } from '../api/comparisons'
import { UnavailableError } from '../api/send'

export interface ComparisonShelfState {
  readonly list: readonly ComparisonSummary[]
  /** The one that is open; null while it is not kept yet, as nothing is in it. */
  readonly id: string | null
  readonly saving: 'saved' | 'waiting' | 'saving' | 'failed'
  /** What went wrong last, in words. */
  readonly problem: string | null
  /** One that was just deleted, to be brought back. */
  readonly deleted: Pick<ComparisonSummary, 'id' | 'name'> | null
  readonly loaded: boolean
}

/** The comparisons of an environment on the server, and the one that is open: saved by itself. Knows no React. */
export interface ComparisonShelf {
  readonly store: StoreApi<ComparisonShelfState>
  /**
   * Reads the list and opens one. @param wanted  its id, where one is asked for
   * @param old  contestants that are on no list yet, to make one of
   */
  open(wanted: string | null, old: Pick<Comparison, 'contestants' | 'runs'> | null): Promise<void>
  show(id: string): Promise<void>
  /** A new one, empty or as is given. */
  create(comparison?: Comparison): Promise<void>
  /** Deletes the one that is open. */
  remove(): Promise<void>
  /** Brings back the one that was deleted last. */
  restore(): Promise<void>
  /** The one that is open was changed: it is saved soon. */
  changed(): void
  /** Saves now what is not saved yet. */
  save(): Promise<void>
}

/** Quiet time before a change is saved, in milliseconds. */
const SAVE_DELAY = 400
/** Time after which it is tried again when the server could not save, in milliseconds. */
const RETRY_DELAY = 1500

/** What is on the table. */
interface Table {
  now(): Comparison
  put(comparison: Comparison): void
}

export function createComparisonShelf(
  environment: string,
  server: ComparisonStore,
  table: Table,
): ComparisonShelf {
  const store = createStore<ComparisonShelfState>()(() => ({
    list: [],
    id: null,
    saving: 'saved',
    problem: null,
    deleted: null,
    loaded: false,
  }))
  let timer: ReturnType<typeof setTimeout> | undefined
  /** As the server has it; at first the empty one, which it need not have. */
  let saved = table.now()
  /** What is on its way, one after the other. */
  let running: Promise<unknown> = Promise.resolve()

  const attempt = async (work: () => Promise<void>): Promise<void> => {
    running = running.then(work).then(
      () => store.setState({ problem: null }),
      (error: unknown) => {
        const problem =
          error instanceof ProblemError ? error.message : 'The server did not answer as it should.'
        store.setState(({ saving }) => ({ problem, saving: saving === 'saving' ? 'failed' : saving }))
        // It is worth another try by itself.
        if (error instanceof UnavailableError && store.getState().saving === 'failed') {
          clearTimeout(timer)
          timer = setTimeout(() => void save(), RETRY_DELAY)
        }
      },
    )
    await running
  }
  const refresh = async () => store.setState({ list: await server.list(environment) })
  const write = async () => {
    const comparison = table.now()
    if (comparison === saved) return
    store.setState({ saving: 'saving' })
    const { id } = store.getState()
    // One that was deleted elsewhere meanwhile becomes a new one: nothing is lost.
    if (!id || !(await server.write(id, comparison)))
      store.setState({ id: (await server.create(environment, comparison)).id })
    saved = comparison
    store.setState({ saving: table.now() === comparison ? 'saved' : 'waiting' })
    const listed = store.getState().list.find((each) => each.id === store.getState().id)
    if (listed?.name !== comparison.name) await refresh()
  }
  const save = () => {
    clearTimeout(timer)
    return attempt(write)
  }
  const put = (id: string | null, comparison: Comparison) => {
    table.put(comparison)
    saved = comparison
    store.setState({ id, saving: 'saved' })
  }
  const read = async (id: string) => {
    await write()
    put(id, await server.read(id))
  }
  const make = async (comparison: Comparison) => {
    const { id } = await server.create(environment, comparison)
    put(id, comparison)
    await refresh()
  }
  const nextName = () => {
    const names = new Set(store.getState().list.map(({ name }) => name))
    let number = names.size + 1
    while (names.has(`Comparison ${number}`)) number++
    return `Comparison ${number}`
  }
  return {
    store,
    async open(wanted, old) {
      await attempt(async () => {
        await refresh()
        const { list } = store.getState()
        // What was begun meanwhile stays.
        if (table.now() !== saved) return
        const found = list.find(({ id }) => id === wanted) ?? list[0]
        if (old) await make({ ...newComparison('Comparison'), ...old })
        else if (found) put(found.id, await server.read(found.id))
        if (wanted && !list.some(({ id }) => id === wanted))
          throw new ProblemError([
            {
              place: 'link',
              cause: 'The comparison it names is not here, or was deleted.',
              remedy: 'Ask the sender for it again.',
            },
          ])
      })
      store.setState({ loaded: true })
    },
    show: (id) => attempt(() => read(id)),
    create: (comparison) =>
      attempt(async () => {
        await write()
        await make(comparison ?? newComparison(nextName()))
      }),
    remove: () =>
      attempt(async () => {
        // What is not saved yet is to come back too.
        await write()
        const { id } = store.getState()
        const { name } = table.now()
        if (id) await server.remove(id)
        await refresh()
        const [next] = store.getState().list
        if (next) put(next.id, await server.read(next.id))
        else put(null, newComparison('Comparison'))
        store.setState({ deleted: id ? { id, name } : null })
      }),
    restore: () =>
      attempt(async () => {
        const { deleted } = store.getState()
        if (!deleted) return
        await server.restore(deleted.id)
        await read(deleted.id)
        await refresh()
        store.setState({ deleted: null })
      }),
    changed() {
      clearTimeout(timer)
      store.setState({ saving: 'waiting', deleted: null })
      timer = setTimeout(() => void save(), SAVE_DELAY)
    },
    save,
  }
}
