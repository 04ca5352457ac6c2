import { episodesPerPoint, STRETCH, type LearningRun, type RunAsk } from './learning-runs'

/** A number that a run is judged by. */
export interface Score {
  readonly title: string
  readonly hint: string
  /** NaN where the run has none. */
  of(run: LearningRun): number
  /** Whether a smaller one is better. */
  readonly smaller?: boolean
  /** What must be asked of the runs. */
  readonly measures?: readonly string[]
  readonly trials?: boolean
  /** Whether it tells what a covered environment hides. */
  readonly exact?: boolean
}

const NAMED = {
  mean: {
    title: 'mean return of the whole run',
    hint: 'High where it learns well, and early.',
    of: (run) => run.mean,
  },
  'last-tenth': {
    title: 'mean return of the last tenth',
    hint: 'Of the last tenth of its episodes.',
    of: (run) => run.late,
  },
  [`last-${STRETCH}`]: {
    title: `mean return of the last ${STRETCH} episodes`,
    hint: 'Exploring included.',
    of: (run) => run.last,
  },
  [`first-${STRETCH}`]: {
    title: `mean return of the first ${STRETCH} episodes`,
    hint: 'Exploring included.',
    of: (run) => run.first,
  },
  [`next-${STRETCH}`]: {
    title: `mean return of the next ${STRETCH} episodes`,
    hint: `Of episodes ${STRETCH + 1} to ${2 * STRETCH}.`,
    of: (run) => run.next,
  },
  exact: {
    title: 'exact value of the learned policy',
    hint: 'From the start, without exploring: computed, not sampled.',
    of: (run) => run.exact ?? NaN,
    exact: true,
  },
  'within-1': within(1),
  'within-5': within(5),
  'within-10': within(10),
  trials: {
    title: 'mean return without learning',
    hint: 'Of the episodes after training: the learned policy, without exploring.',
    of: (run) => run.trials?.mean ?? NaN,
    trials: true,
  },
  success: {
    title: 'success without learning',
    hint: 'The share of the episodes after training that succeed.',
    of: (run) => run.trials?.success ?? NaN,
    trials: true,
  },
  length: {
    title: 'length without learning',
    hint: 'Steps of the episodes after training.',
    of: (run) => run.trials?.length ?? NaN,
    smaller: true,
    trials: true,
  },
} as const satisfies Readonly<Record<string, Score>>
export const SCORE_IDS: readonly string[] = Object.keys(NAMED)

/**
 * A score by its name: one of those above, or `measure` and the name of a measure of the environment, which is its mean
 * total in the episodes after training.
 * @throws RangeError for one that does not exist
 */
export function scoreOf(id: string): Score {
  if (id.startsWith(OWN)) {
    const name = id.slice(OWN.length)
    return {
      title: `${name.replaceAll('_', ' ')} without learning`,
      hint: 'Its total over an episode after training, expected for each action taken.',
      of: (run) => run.trials?.measures[name] ?? NaN,
      trials: true,
    }
  }
  if (!SCORE_IDS.includes(id)) throw new RangeError(`there is no score "${id}"`)
  return NAMED[id as keyof typeof NAMED]
}
const OWN = 'measure '

/** What must be asked of runs that are judged by a score. @param trials  how many episodes, where it takes some */
export function askFor(score: Score, trials: number): RunAsk {
  return { measures: score.measures ?? [], trials: score.trials ? trials : 0 }
}

/** The scores of those runs that have one. */
export function scoresOf(runs: readonly LearningRun[], { of }: Score): Float64Array {
  return Float64Array.from(runs, of).filter((value) => !Number.isNaN(value))
}

function within(percent: number): Score {
  return {
    title: `episodes until within ${percent} % of the optimum`,
    hint: 'Until the exact value of its policy is that near for the first time; a run that never gets there counts with all its episodes.',
    of({ curves, optimum, episodes }) {
      if (optimum === null || !curves.greedy) return NaN
      const enough = optimum - (percent / 100) * Math.abs(optimum) - 1e-9
      const point = curves.greedy.findIndex((value) => value >= enough)
      return point < 0 ? episodes : Math.min(episodes, (point + 1) * episodesPerPoint(episodes))
    },
    smaller: true,
    measures: ['greedy'],
    exact: true,
  }
}
