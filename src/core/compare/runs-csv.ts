import { writeCsv } from '../formats/csv'
import { fingerprintText } from '../model/fingerprint'
import { lastEpisodes, type LearningRun } from './learning-runs'
import { SCORE_IDS, scoreOf } from './scores'
import type { SweepValue } from './sweep'

/** A contestant with its runs, for files. */
export interface NamedRuns {
  readonly name: string
  readonly runs: readonly LearningRun[]
  /** [axes of the sweep] where it stands in a sweep */
  readonly values?: readonly SweepValue[]
}

const number = (value: number) => (Number.isFinite(value) ? value : '')

/**
 * A line a run: what it was judged by; what it has not is left empty. RFC 4180.
 * @param varied  the names of what is swept, as columns of their own
 */
export function scoresCsv(groups: readonly NamedRuns[], varied: readonly string[] = []): string {
  const trials = new Set(groups.flatMap(({ runs }) => Object.keys(runs[0]?.trials?.measures ?? {})))
  const ids = [...SCORE_IDS, ...[...trials].map((name) => `measure ${name}`)]
  const told = ids.filter((id) =>
    groups.some(({ runs }) => runs.some((run) => !Number.isNaN(scoreOf(id).of(run)))),
  )
  return writeCsv(
    ['contestant', ...varied, 'run', 'environment', 'program', 'steps', 'outcome', ...told],
    groups.flatMap(({ name, runs, values = [] }) =>
      runs.map((run) => [
        name,
        ...values,
        run.run,
        fingerprintText(run.fingerprint),
        run.program,
        run.steps,
        run.outcome,
        ...told.map((id) => number(scoreOf(id).of(run))),
      ]),
    ),
  )
}

/** A line a point of each run: the episode it ends with, and its curves. RFC 4180. */
export function curvesCsv(groups: readonly NamedRuns[]): string {
  const ids = [...new Set(groups.flatMap(({ runs }) => runs.flatMap(({ curves }) => Object.keys(curves))))]
  return writeCsv(
    ['contestant', 'run', 'episode', ...ids],
    groups.flatMap(({ name, runs }) =>
      runs.flatMap(({ run, curves, episodes }) =>
        Array.from(lastEpisodes(episodes), (episode, i) => [
          name,
          run,
          episode,
          ...ids.map((id) => number(curves[id]?.[i] ?? NaN)),
        ]),
      ),
    ),
  )
}
