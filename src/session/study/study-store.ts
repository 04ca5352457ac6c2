import { createStore, type StoreApi } from 'zustand'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import type { EnvironmentRecord, SaveReceipt } from '../../server/contract/environments'
import { readEnvironment, saveEnvironment } from '../api/environments'
import { FollowedError, GoneError, StaleError, UnavailableError } from '../api/send'
import type { Layer, Stage, View } from '../../core/lesson/names'

/** How the document on screen stands to the one on the shelf. */
export type Saving =
  | { readonly state: 'saved' | 'waiting' | 'saving' }
  /** Gone: it was deleted elsewhere. */
  | { readonly state: 'failed' | 'stale' | 'gone'; readonly message: string }

export interface StudyState {
  readonly id: string
  /** Of a variant: what it follows, as it was when this page was opened. */
  readonly base: EnvironmentRecord['base']
  readonly document: EnvironmentDocument
  readonly past: readonly EnvironmentDocument[]
  readonly future: readonly EnvironmentDocument[]
  readonly saving: Saving
  readonly stage: Stage
  /** The cell of a grid or the state of a table that is selected. */
  readonly cursor: number | null
  /** The state a term of the working points at. */
  readonly pointed: number | null
  readonly layers: ReadonlySet<Layer>
  readonly view: View
  /** The curve of the strip is spread over the board's place. */
  readonly spread: boolean
  /** The plan is shown while building, and follows every edit. */
  readonly planned: boolean
  /** By the label of tabs in the side column, the title of the one that was opened last. */
  readonly tabs: Readonly<Record<string, string>>
  /** By the name of what can be folded away, whether it is open; what is not said is as it is at first. */
  readonly folds: Readonly<Record<string, boolean>>
  /**
   * Puts a new document in place. Edits with the same `stroke` (other than 0) are undone together.
   */
  edit(document: EnvironmentDocument, stroke?: number): void
  undo(): void
  redo(): void
  show(stage: Stage): void
  select(cursor: number | null): void
  point(state: number | null): void
  toggleLayer(layer: Layer): void
  setView(view: View): void
  setPlanned(planned: boolean): void
  setSpread(spread: boolean): void
  openTab(label: string, title: string): void
  fold(name: string, open: boolean): void
  /** Saves now what is not saved yet. */
  save(): Promise<void>
  /** Saves again what was deleted elsewhere and is back on the shelf. */
  resume(): Promise<void>
  /** Saves while the page goes away, when no answer can be waited for. */
  leave(): void
}

/** The layers that are on at first, unless a kind of environment has others. */
const FIRST_LAYERS: readonly Layer[] = ['values', 'policy', 'changes']
const HISTORY = 200
/** Quiet time before an edit is saved, in milliseconds. */
const SAVE_DELAY = 500
/** Time after which it is tried again when the server could not save, in milliseconds. */
const RETRY_DELAY = 1500

/** Whether saving waits for somebody to decide. */
function isStuck({ state }: Saving): boolean {
  return state === 'stale' || state === 'gone'
}

/** Everything about one open environment but the runs on it. Knows no React. */
export function createStudyStore(
  record: EnvironmentRecord,
  stage: Stage,
  layers: readonly Layer[] = FIRST_LAYERS,
  save: (
    id: string,
    revision: number,
    document: EnvironmentDocument,
  ) => Promise<SaveReceipt> = saveEnvironment,
  read: (id: string) => Promise<EnvironmentRecord> = readEnvironment,
): StoreApi<StudyState> {
  let revision = record.revision
  let savedDocument = record.document
  let lastStroke = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | undefined
  /** What the save on its way carries. */
  let sent: EnvironmentDocument | undefined

  return createStore<StudyState>()((set, get) => {
    const put = (document: EnvironmentDocument, history: Pick<StudyState, 'past' | 'future'>) => {
      const stuck = isStuck(get().saving)
      set({ document, ...history, ...(stuck ? {} : { saving: { state: 'waiting' } }) })
      clearTimeout(timer)
      if (!stuck) timer = setTimeout(() => void get().save(), SAVE_DELAY)
    }
    /** Its base was changed elsewhere: what was changed here is carried over to what it became there. */
    const carryOver = async () => {
      const [{ followBase }, now] = await Promise.all([
        import('../../core/environment/apply-changes'),
        read(record.id),
      ])
      const before = savedDocument
      const over = (document: EnvironmentDocument) => followBase(document, before, now.document)
      const { document, past, future } = get()
      const carried = over(document)
      revision = now.revision
      savedDocument = now.document
      set({ document: carried, past: past.map(over), future: future.map(over), base: now.base })
    }
    const refused = (error: unknown) => {
      const message = error instanceof ProblemError ? error.message : 'The environment could not be saved.'
      const state = error instanceof StaleError ? 'stale' : error instanceof GoneError ? 'gone' : 'failed'
      set({ saving: { state, message } })
      if (error instanceof UnavailableError) timer = setTimeout(() => void get().save(), RETRY_DELAY)
    }
    return {
      id: record.id,
      base: record.base,
      document: record.document,
      past: [],
      future: [],
      saving: { state: 'saved' },
      stage,
      cursor: null,
      pointed: null,
      layers: new Set(layers),
      view: 'board',
      planned: false,
      spread: false,
      tabs: {},
      folds: {},
      edit(document, stroke = 0) {
        const { document: before, past } = get()
        if (document === before) return
        const joins = stroke !== 0 && stroke === lastStroke
        lastStroke = stroke
        put(document, { past: joins ? past : [...past.slice(-HISTORY), before], future: [] })
      },
      undo() {
        const { document, past, future } = get()
        const before = past.at(-1)
        if (!before) return
        lastStroke = 0
        put(before, { past: past.slice(0, -1), future: [document, ...future] })
      },
      redo() {
        const { document, past, future } = get()
        if (!future.length) return
        lastStroke = 0
        put(future[0], { past: [...past, document], future: future.slice(1) })
      },
      show: (next) => set({ stage: next, pointed: null }),
      select: (cursor) => set({ cursor, pointed: null }),
      point: (pointed) => set({ pointed }),
      toggleLayer(layer) {
        const layers = new Set(get().layers)
        if (!layers.delete(layer)) layers.add(layer)
        set({ layers })
      },
      setView: (view) => set({ view }),
      setPlanned: (planned) => set({ planned }),
      setSpread: (spread) => set({ spread }),
      openTab: (label, title) => set({ tabs: { ...get().tabs, [label]: title } }),
      fold: (name, open) => set({ folds: { ...get().folds, [name]: open } }),
      async save() {
        clearTimeout(timer)
        while (running) await running
        const { document, saving } = get()
        if (document === savedDocument) {
          if (saving.state === 'waiting') set({ saving: { state: 'saved' } })
          return
        }
        if (isStuck(saving)) return
        // What is tried again keeps saying that it failed.
        if (saving.state !== 'failed') set({ saving: { state: 'saving' } })
        sent = document
        running = save(record.id, revision, document)
          .then(
            (receipt) => {
              revision = receipt.revision
              savedDocument = document
              set({ saving: { state: get().document === document ? 'saved' : 'waiting' } })
            },
            async (error: unknown) => {
              if (!(error instanceof FollowedError)) return refused(error)
              try {
                await carryOver()
                set({ saving: { state: 'waiting' } })
                timer = setTimeout(() => void get().save())
              } catch (failure) {
                // Without the server it is tried again later; otherwise nothing sound would come of it.
                refused(failure instanceof UnavailableError ? failure : error)
              }
            },
          )
          .finally(() => (running = undefined))
        await running
      },
      async resume() {
        set({ saving: { state: 'waiting' } })
        await get().save()
      },
      leave() {
        const { document, saving } = get()
        if (!running) void get().save()
        else if (document !== sent && !isStuck(saving))
          // The one on its way makes the next revision; if it is refused, so is this.
          void save(record.id, revision + 1, document).catch(() => {})
      },
    }
  })
}
