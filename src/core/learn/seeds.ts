import { quantile } from './curves'
import type { Learner } from './learner'

/** What came of one run among many with the same settings. */
export interface RunSummary {
  /** The number of the run, from 0. */
  readonly run: number
  /** [points] the rolling mean of returns at each of the episodes asked about; NaN after the run was over */
  readonly means: Float64Array
  /** The mean return of all its episodes: high where it learned well, and early. */
  readonly mean: number
  /** The mean return of the last episodes. */
  readonly lastMean: number
  /** The exact value of the policy it learned; null where there is none, or it was not computed. */
  readonly exact: number | null
  /** Whether there is none because the policy may never end from the start, undiscounted. */
  readonly endless: boolean
  readonly steps: number
  readonly episodes: number
  readonly outcome: Learner['status']['outcome']
}

/** Episodes, from 1, at which the runs with many seeds are compared: evenly spread, the last one among them. */
export function seedsEpisodes(episodes: number, points = 200): Float64Array {
  const count = Math.min(points, episodes)
  return Float64Array.from({ length: count }, (_, i) =>
    count === 1 ? episodes : 1 + Math.round((i * (episodes - 1)) / (count - 1)),
  )
}

/** @param exact  the exact value of the policy it learned; `never ends` where it has none */
export function summarise(
  learner: Learner,
  episodes: Float64Array,
  window: number,
  exact: number | 'never ends' | null,
): RunSummary {
  const { log } = learner
  return {
    run: learner.settings.run,
    means: episodes.map((episode) => (episode <= log.count ? log.rollingMean(episode - 1, window) : NaN)),
    mean: log.count ? log.rollingMean(log.count - 1, log.count) : NaN,
    lastMean: log.count ? log.rollingMean(log.count - 1, window) : NaN,
    exact: exact === 'never ends' ? null : exact,
    endless: exact === 'never ends',
    steps: learner.steps,
    episodes: log.count,
    outcome: learner.status.outcome,
  }
}

/** Median and quartiles of many runs at each of its episodes, over the runs that were still going. */
export interface SeedsBand {
  readonly median: Float64Array
  readonly lower: Float64Array
  readonly upper: Float64Array
}

export function seedsBand(runs: readonly RunSummary[]): SeedsBand {
  const points = runs[0]?.means.length ?? 0
  const band = {
    median: new Float64Array(points),
    lower: new Float64Array(points),
    upper: new Float64Array(points),
  }
  for (let i = 0; i < points; i++) {
    const column = Float64Array.from(runs, ({ means }) => means[i]).filter((mean) => !Number.isNaN(mean))
    column.sort()
    const at = (part: number) => (column.length ? quantile(column, part) : NaN)
    band.median[i] = at(0.5)
    band.lower[i] = at(0.25)
    band.upper[i] = at(0.75)
  }
  return band
}

/** The place of a run among others by a number, from 1 for the largest; equal ones share the better place. */
export function placeAmong(
  run: RunSummary,
  runs: readonly RunSummary[],
  by: (run: RunSummary) => number,
): number {
  return 1 + runs.filter((other) => by(other) > by(run) + 1e-9).length
}
