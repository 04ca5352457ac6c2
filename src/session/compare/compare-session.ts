import { createStore, type StoreApi } from 'zustand'
import { documentFor, sweepOf, type Contestant, type Sweep } from '../../core/compare/contestant'
import type { LearningRun, LearningTask, RunMeasure } from '../../core/compare/learning-runs'
import type { BandKind, ScoreId } from '../../core/compare/run-statistics'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { learnMethod } from '../../core/learn/methods/methods'
import { ProblemError } from '../../core/problem'
import { completeChoice, type LearnChoice } from '../../core/settings/choice'
import { startLearningRunsWorker, type Connection } from '../../hosts/browser/launcher'
import type { LearningRunsReply, LearningRunsRequest } from '../../hosts/protocol/learning-runs'
import { browserKeptRuns, type KeptRuns } from '../learn/kept-run'
import { WorkPool } from '../work-pool'

export interface CompareState {
  readonly contestants: readonly Contestant[]
  /** Those that are not drawn and not run, by number. */
  readonly hidden: ReadonlySet<number>
  /** Runs of each contestant. */
  readonly runs: number
  /** What came of the runs, by `runKey`, in the order of their numbers. */
  readonly results: Readonly<Record<string, readonly LearningRun[]>>
  /** What is drawn: curves over the episodes, the runs by their score, or scores over a setting. */
  readonly picture: 'curves' | 'spread' | 'sweep'
  readonly sweep: Sweep
  readonly measure: RunMeasure
  /** Over how many points a curve is smoothed. */
  readonly smooth: number
  readonly band: BandKind
  readonly score: ScoreId
  readonly running: boolean
  /** Runs done and asked for, of all contestants together. */
  readonly done: number
  readonly asked: number
  /** Milliseconds that are left, as far as can be told. */
  readonly left: number | null
  readonly failure: string | null
}

/** What of the state is chosen by a person. */
type Chosen = Pick<CompareState, 'runs' | 'picture' | 'sweep' | 'measure' | 'smooth' | 'band' | 'score'>

/** Contestants on many runs, on all cores. Knows no React. */
export interface CompareSession {
  readonly store: StoreApi<CompareState>
  /** Brings back what was here when the page went away, once. */
  open(): void
  add(choice: LearnChoice, knobs?: Contestant['knobs']): void
  change(id: number, part: Partial<Omit<Contestant, 'id'>>): void
  duplicate(id: number): void
  remove(id: number): void
  hide(id: number, hidden: boolean): void
  set(part: Partial<Chosen>): void
  /** Plays the runs that are not there yet. */
  start(document: EnvironmentDocument): void
  stop(): void
}

/** Runs of other settings and environments that are kept at the most. */
const KEPT_RUNS = 20_000
/** Runs between two reports of a worker. */
const CHUNK = 1
/** Milliseconds between two pictures of the runs at the least. */
const SHOWN = 300

/** What makes the runs of two contestants the same: the environment as it is for them, and the agent. */
export function runKey(document: EnvironmentDocument, { choice }: Pick<Contestant, 'choice'>): string {
  // Neither the number of the run nor words and pictures of the environment count.
  const { run: _run, ...agent } = choice
  const { name: _name, note: _note, learning: _learning, ...environment } = document
  return JSON.stringify([environment, agent])
}

/** The runs of a contestant that are there; `problem` where its environment cannot be made. */
export function runsOf(
  { results }: Pick<CompareState, 'results'>,
  document: EnvironmentDocument,
  contestant: Contestant,
): { readonly runs: readonly LearningRun[]; readonly problem: string | null } {
  try {
    return { runs: results[runKey(documentFor(document, contestant), contestant)] ?? [], problem: null }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    return { runs: [], problem: error.problems.map(({ cause, remedy }) => `${cause} ${remedy}`).join(' ') }
  }
}

/** Whose runs a picture needs. */
export function wantedRuns({ contestants, hidden, picture, sweep }: CompareState): readonly Contestant[] {
  const shown = contestants.filter(({ id }) => !hidden.has(id))
  return picture === 'sweep'
    ? shown.flatMap((each) => sweepOf(each, sweep).map(({ contestant }) => contestant))
    : shown
}

function pick(
  results: CompareState['results'],
  keys: readonly string[],
): Record<string, readonly LearningRun[]> {
  return Object.fromEntries(keys.flatMap((key) => (results[key] ? [[key, results[key]] as const] : [])))
}

/** Whether a method can be compared: what only evaluates a policy has nothing to win. */
export function canCompare({ method }: LearnChoice): boolean {
  return learnMethod(method).purpose === 'control'
}

export function createCompareSession(
  environment: string,
  kept: KeptRuns = browserKeptRuns(),
  cores: () => number = () => navigator.hardwareConcurrency || 2,
  startWorker: () => Connection<LearningRunsRequest, LearningRunsReply> = startLearningRunsWorker,
  now: () => number = () => performance.now(),
): CompareSession {
  const store = createStore<CompareState>()(() => ({
    contestants: [],
    hidden: new Set(),
    runs: 30,
    results: {},
    picture: 'curves',
    sweep: { varied: 'rate', from: 1 / 64, to: 1 },
    measure: 'return',
    smooth: 10,
    band: 'quartiles',
    score: 'mean',
    running: false,
    done: 0,
    asked: 0,
    left: null,
    failure: null,
  }))
  const pool = new WorkPool<LearningRunsRequest, LearningRunsReply>(cores, startWorker)
  let opened = false
  const keep = () => {
    const { contestants, runs, results } = store.getState()
    void kept.write('comparison', environment, { contestants, runs, results })
  }
  const setContestants = (contestants: readonly Contestant[]) => {
    store.setState({ contestants })
    keep()
  }
  const insert = (choice: LearnChoice, knobs: Contestant['knobs']) => {
    const { contestants } = store.getState()
    const id = Math.max(-1, ...contestants.map((each) => each.id)) + 1
    setContestants([...contestants, { id, choice, knobs }])
  }
  const stop = () => {
    pool.stop()
    store.setState({ running: false, left: null })
  }
  return {
    store,
    open() {
      if (opened) return
      opened = true
      void kept.read('comparison', environment).then((found) => {
        if (!found || store.getState().contestants.length) return
        const contestants = found.contestants.map((each) => ({
          ...each,
          choice: completeChoice(each.choice),
        }))
        store.setState({ ...found, contestants })
      })
    },
    add: (choice, knobs = {}) => insert(choice, knobs),
    change: (id, part) =>
      setContestants(
        store.getState().contestants.map((each) => (each.id === id ? { ...each, ...part } : each)),
      ),
    duplicate(id) {
      const found = store.getState().contestants.find((each) => each.id === id)
      if (found) insert(found.choice, found.knobs)
    },
    remove: (id) => setContestants(store.getState().contestants.filter((each) => each.id !== id)),
    hide(id, hidden) {
      const all = new Set(store.getState().hidden)
      if (hidden) all.add(id)
      else all.delete(id)
      store.setState({ hidden: all })
    },
    set(part) {
      store.setState(part)
      // How it is looked at is not kept: the results are large.
      if ('runs' in part) keep()
    },
    start(document) {
      const { runs, results: before } = store.getState()
      const tasks: LearningTask[] = []
      const found: Map<number, LearningRun>[] = []
      const keys: string[] = []
      const jobs: LearningRunsRequest[] = []
      for (const contestant of wantedRuns(store.getState())) {
        if (runsOf(store.getState(), document, contestant).problem) continue
        const turned = documentFor(document, contestant)
        const key = runKey(turned, contestant)
        if (keys.includes(key)) continue
        keys.push(key)
        tasks.push({ document: turned, choice: contestant.choice })
        found.push(new Map((before[key] ?? []).map((run) => [run.run, run])))
      }
      // All contestants come on at the same time: what is drawn can be compared from the beginning.
      for (let from = 0; from < runs; from += CHUNK)
        tasks.forEach((_, task) => {
          const to = Math.min(runs, from + CHUNK)
          for (let run = from; run < to; run++)
            if (!found[task].has(run)) return void jobs.push({ type: 'play', task, from, to })
        })
      // The latest ones are at the end.
      let room = KEPT_RUNS
      const others = Object.entries(before)
        .filter(([key]) => !keys.includes(key))
        .reverse()
        .filter(([, made]) => (room -= made.length) >= 0)
        .reverse()
      store.setState({ results: { ...Object.fromEntries(others), ...pick(before, keys) } })
      const started = now()
      let done = 0
      let shownAt = -Infinity
      const show = () => {
        shownAt = now()
        store.setState(({ results }) => ({
          done,
          left: done > 0 ? ((now() - started) / done) * (jobs.length - done) : null,
          results: {
            ...results,
            ...Object.fromEntries(
              keys.map((key, i) => [key, [...found[i].values()].sort((x, y) => x.run - y.run)]),
            ),
          },
        }))
      }
      store.setState({ running: jobs.length > 0, done: 0, asked: jobs.length, left: null, failure: null })
      pool.start({
        open: (session) => ({ type: 'open', session, tasks }),
        jobs,
        take({ task, runs: played }) {
          for (const run of played) found[task].set(run.run, run)
          done++
          if (now() >= shownAt + SHOWN) show()
        },
        finish() {
          show()
          store.setState({ running: false, left: null })
          keep()
        },
        fail(failure) {
          show()
          store.setState({ running: false, left: null, failure })
        },
      })
    },
    stop,
  }
}
