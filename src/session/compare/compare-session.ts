import { createStore, type StoreApi } from 'zustand'
import { newComparison, type Comparison, type ComparisonView } from '../../core/compare/comparison'
import type { Contestant } from '../../core/compare/contestant'
import type { LearningRun } from '../../core/compare/learning-runs'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { PROGRAM } from '../../core/program'
import { learnMethod } from '../../core/learn/methods/methods'
import { completeChoice, type LearnChoice } from '../../core/settings/choice'
import { startLearningRunsWorker, type Connection } from '../../hosts/browser/launcher'
import type { LearningRunsReply, LearningRunsRequest } from '../../hosts/protocol/learning-runs'
import { serverComparisons, type ComparisonStore } from '../api/comparisons'
import { browserKeptRuns, type KeptRuns } from '../learn/kept-run'
import { WorkPool } from '../work-pool'
import type { CompareState } from './compare-state'
import { createComparisonShelf, type ComparisonShelf } from './comparison-shelf'

/** Contestants on many runs, on all cores. Knows no React. */
export interface CompareSession {
  readonly store: StoreApi<CompareState>
  /** Comparisons of this environment that are kept. */
  readonly shelf: ComparisonShelf
  /** Brings back what was here when the page went away, once. @param wanted  a comparison that the address names */
  open(wanted?: string | null): Promise<void>
  add(choice: LearnChoice, knobs?: Contestant['knobs']): void
  /** One more contestant, of any kind. */
  insert(contestant: Omit<Contestant, 'id'>): void
  change(id: number, part: Partial<Omit<Contestant, 'id'>>): void
  duplicate(id: number): void
  remove(id: number): void
  /** One place up, or down, in the list. */
  move(id: number, by: 1 | -1): void
  hide(id: number, hidden: boolean): void
  set(part: Partial<Omit<Comparison, 'contestants' | 'view'>>): void
  look(part: Partial<ComparisonView>): void
  undo(): void
  redo(): void
  /** Plays the runs that are not there yet. */
  start(document: EnvironmentDocument): Promise<void>
  stop(): void
  /** Takes runs that the server played. @param last  up to where those of the job are known then */
  take(
    job: string,
    last: number,
    chunks: readonly { readonly key: string; readonly runs: readonly LearningRun[] }[],
  ): void
}

/** Runs of other settings and environments that are kept at the most. */
const KEPT_RUNS = 20_000
/** Changes that can be undone. */
const HISTORY = 100

/** Whether a method can be compared: what only evaluates a policy has nothing to win. */
export function canCompare({ method }: LearnChoice): boolean {
  return learnMethod(method).purpose === 'control'
}

export function createCompareSession(
  environment: string,
  kept: KeptRuns = browserKeptRuns(),
  comparisons: ComparisonStore = serverComparisons,
  cores: () => number = () => navigator.hardwareConcurrency || 2,
  startWorker: () => Connection<LearningRunsRequest, LearningRunsReply> = startLearningRunsWorker,
  now: () => number = () => performance.now(),
): CompareSession {
  const store = createStore<CompareState>()(() => ({
    comparison: newComparison('Comparison'),
    past: [],
    future: [],
    results: {},
    before: {},
    taken: {},
    running: false,
    done: 0,
    asked: 0,
    left: null,
    failure: null,
  }))
  const pool = new WorkPool<LearningRunsRequest, LearningRunsReply>(cores, startWorker)
  const stop = () => {
    pool.stop()
    store.setState({ running: false, left: null })
  }
  const shelf = createComparisonShelf(environment, comparisons, {
    now: () => store.getState().comparison,
    put(comparison) {
      stop()
      store.setState({ comparison, past: [], future: [], before: {}, failure: null })
    },
  })
  const keepRuns = () =>
    void kept.write('comparison', environment, {
      results: bounded(store.getState().results),
      taken: store.getState().taken,
    })
  /** What changes the contestants can be undone; how they are looked at cannot. */
  const put = (part: Partial<Comparison>, undoable = true) => {
    const { comparison, past, future } = store.getState()
    store.setState({
      comparison: { ...comparison, ...part },
      past: undoable ? [...past.slice(-HISTORY), comparison] : past,
      future: undoable ? [] : future,
    })
    shelf.changed()
  }
  const contestants = () => store.getState().comparison.contestants
  const insert = (contestant: Omit<Contestant, 'id'>) => {
    const id = Math.max(-1, ...contestants().map((each) => each.id)) + 1
    put({ contestants: [...contestants(), { ...contestant, id }] })
  }
  let opened: Promise<void> | undefined
  return {
    store,
    shelf,
    open(wanted = null) {
      return (opened ??= kept.read('comparison', environment).then(async (found) => {
        store.setState(({ results, taken }) => ({
          results: { ...complete(found?.results), ...results },
          taken: { ...found?.taken, ...taken },
        }))
        // Contestants of a version of the program that kept them in the browser.
        const old = found?.contestants?.map((each) => ({ ...each, choice: completeChoice(each.choice) }))
        await shelf.open(wanted, old?.length ? { contestants: old, runs: found?.runs ?? 30 } : null)
        if (old?.length) keepRuns()
      }))
    },
    add: (choice, knobs = {}) => insert({ choice, knobs }),
    insert,
    change: (id, part) =>
      put({ contestants: contestants().map((each) => (each.id === id ? { ...each, ...part } : each)) }),
    duplicate(id) {
      const found = contestants().find((each) => each.id === id)
      if (!found) return
      const { id: _, ...rest } = found
      insert(rest)
    },
    remove: (id) => put({ contestants: contestants().filter((each) => each.id !== id) }),
    move(id, by) {
      const list = [...contestants()]
      const from = list.findIndex((each) => each.id === id)
      const to = from + by
      if (from < 0 || to < 0 || to >= list.length) return
      ;[list[from], list[to]] = [list[to], list[from]]
      put({ contestants: list })
    },
    hide(id, hide) {
      const others = store.getState().comparison.hidden.filter((each) => each !== id)
      put({ hidden: hide ? [...others, id] : others }, false)
    },
    // Fields of text take their letters back themselves.
    set: (part) => put(part, 'runs' in part || 'trials' in part),
    look: (part) => put({ view: { ...store.getState().comparison.view, ...part } }, false),
    undo() {
      const { comparison, past, future } = store.getState()
      const last = past.at(-1)
      if (!last) return
      store.setState({
        comparison: withContestantsOf(comparison, last),
        past: past.slice(0, -1),
        future: [comparison, ...future],
      })
      shelf.changed()
    },
    redo() {
      const { comparison, past, future } = store.getState()
      if (!future.length) return
      store.setState({
        comparison: withContestantsOf(comparison, future[0]),
        past: [...past, comparison],
        future: future.slice(1),
      })
      shelf.changed()
    },
    async start(document) {
      // What plays is loaded when it is first asked for.
      const { playMissing } = await import('./compare-runs')
      playMissing({ store, pool, document, now, finished: keepRuns })
    },
    stop,
    take(job, last, chunks) {
      const { results, taken } = store.getState()
      const changed = new Map<string, Map<number, LearningRun>>()
      for (const { key, runs } of chunks) {
        const all = changed.get(key) ?? new Map((results[key] ?? []).map((run) => [run.run, run]))
        changed.set(key, all)
        // What tells more stays: a run may have been played here for another question.
        for (const run of runs) if (!tellsMore(all.get(run.run), run)) all.set(run.run, run)
      }
      store.setState({
        taken: { ...taken, [job]: last },
        results: {
          ...results,
          ...Object.fromEntries(
            [...changed].map(([key, all]) => [key, [...all.values()].sort((x, y) => x.run - y.run)]),
          ),
        },
      })
      keepRuns()
    },
  }
}

/** What is undone and done again: who is compared, and on how many runs. */
function withContestantsOf(comparison: Comparison, { contestants, runs, trials }: Comparison): Comparison {
  return { ...comparison, contestants, runs, trials }
}

/** Whether a run has curves or trials that another one of the same number lacks. */
function tellsMore(one: LearningRun | undefined, other: LearningRun): boolean {
  if (!one) return false
  const more = Object.keys(one.curves).some((id) => !other.curves[id]) || (one.trials && !other.trials)
  const less = Object.keys(other.curves).some((id) => !one.curves[id]) || (other.trials && !one.trials)
  return Boolean(more && !less)
}

/** Runs of another version of the program may be other ones: they are played again. */
function complete(results: CompareState['results'] = {}): CompareState['results'] {
  return Object.fromEntries(
    Object.entries(results).filter(([, runs]) => runs.every(({ program }) => program === PROGRAM)),
  )
}

/** As many as are kept at the most, of those that changed last. */
function bounded(results: CompareState['results']): CompareState['results'] {
  let room = KEPT_RUNS
  return Object.fromEntries(
    Object.entries(results)
      .reverse()
      .filter(([, runs]) => (room -= runs.length) >= 0)
      .reverse(),
  )
}
