import type { StoreApi } from 'zustand'
import { askOf, wantedContestants } from '../../core/compare/asked-runs'
import { documentFor, type Contestant } from '../../core/compare/contestant'
import { answers, type LearningRun, type RunAsk } from '../../core/compare/learning-runs'
import { chunksOf, contestantProblem, plannedTasks, runKey } from '../../core/compare/run-plan'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import type { LearningRunsReply, LearningRunsRequest } from '../../hosts/protocol/learning-runs'
import type { WorkPool } from '../work-pool'
import type { CompareState } from './compare-state'

/** Runs between two reports of a worker. */
const CHUNK = 1
/** Milliseconds between two pictures of the runs at the least. */
const SHOWN = 300

/** The runs of a contestant that are there. */
export interface ShownRuns {
  readonly runs: readonly LearningRun[]
  /** Whether they are of an environment or settings as they were before. */
  readonly stale: boolean
  /** Why it cannot be run; null where it can. */
  readonly problem: string | null
}

/** The runs of a contestant; where there are none, those it had before it or its environment was changed. */
export function runsOf(
  { results, before }: Pick<CompareState, 'results' | 'before'>,
  document: EnvironmentDocument,
  contestant: Contestant,
): ShownRuns {
  const problem = contestantProblem(document, contestant)
  const runs = problem === null ? results[runKey(documentFor(document, contestant), contestant)] : undefined
  if (runs?.length) return { runs, stale: false, problem }
  const old = results[before[contestant.id]] ?? []
  return { runs: old, stale: old.length > 0, problem }
}

/** Whose runs are wanted now; none where the values of a sweep cannot be read. */
export function wantedNow({ comparison }: Pick<CompareState, 'comparison'>, document: EnvironmentDocument) {
  try {
    return wantedContestants(comparison, document)
  } catch (error) {
    if (error instanceof ProblemError) return []
    throw error
  }
}

/** How many runs are still to be played. */
export function missingRuns(state: CompareState, document: EnvironmentDocument): number {
  const { comparison, results } = state
  const ask = askOf(comparison)
  return plannedTasks(wantedNow(state, document), document, ask).reduce(
    (sum, { key }) =>
      sum + Math.max(0, comparison.runs - answering(results[key], ask, comparison.runs).length),
    0,
  )
}

function answering(
  runs: readonly LearningRun[] | undefined,
  ask: RunAsk,
  count: number,
): readonly LearningRun[] {
  return runs?.filter((run) => run.run < count && answers(run, ask)) ?? []
}

/** Plays the runs that are not there yet. @param finished  called when all of them are */
export function playMissing({
  store,
  pool,
  document,
  now,
  finished,
}: {
  readonly store: StoreApi<CompareState>
  readonly pool: WorkPool<LearningRunsRequest, LearningRunsReply>
  readonly document: EnvironmentDocument
  now(): number
  finished(): void
}): void {
  const { comparison, results: before } = store.getState()
  const { runs } = comparison
  const ask = askOf(comparison)
  const wanted = wantedNow(store.getState(), document)
  const planned = plannedTasks(wanted, document, ask)
  const found = planned.map(
    ({ key }) => new Map(answering(before[key], ask, Infinity).map((run) => [run.run, run])),
  )
  const jobs = chunksOf(planned.length, runs, CHUNK, (task, run) => found[task].has(run)).map(
    (chunk): LearningRunsRequest => ({ type: 'play', ...chunk }),
  )
  const played = new Set<number>()
  const started = now()
  let done = 0
  let shownAt = -Infinity
  const show = () => {
    shownAt = now()
    const changed = [...played].map((task) => [
      planned[task].key,
      [...found[task].values()].sort((x, y) => x.run - y.run),
    ])
    played.clear()
    store.setState(({ results }) => ({
      done,
      left: done > 0 ? ((now() - started) / done) * (jobs.length - done) : null,
      // What changed last is at the end.
      results: {
        ...withoutKeys(
          results,
          changed.map(([key]) => key as string),
        ),
        ...Object.fromEntries(changed),
      },
    }))
  }
  const runnable = wanted.filter((each) => contestantProblem(document, each) === null)
  store.setState({
    running: jobs.length > 0,
    done: 0,
    asked: jobs.length,
    left: null,
    failure: null,
    before: {
      ...store.getState().before,
      ...(comparison.view.picture === 'sweep'
        ? {}
        : Object.fromEntries(runnable.map((each) => [each.id, runKey(documentFor(document, each), each)]))),
    },
  })
  pool.start({
    open: (session) => ({ type: 'open', session, tasks: planned.map(({ task }) => task) }),
    jobs,
    take({ task, runs: taken }) {
      for (const run of taken) found[task].set(run.run, run)
      played.add(task)
      done++
      if (now() >= shownAt + SHOWN) show()
    },
    finish() {
      show()
      store.setState({ running: false, left: null })
      finished()
    },
    fail(failure) {
      show()
      store.setState({ running: false, left: null, failure })
    },
  })
}

function withoutKeys<T>(record: Readonly<Record<string, T>>, keys: readonly string[]): Record<string, T> {
  const rest = { ...record }
  for (const key of keys) delete rest[key]
  return rest
}
