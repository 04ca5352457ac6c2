/** What is followed over the pulls of a run, each once: its name, what it is measured in, and its range. */
export const PULL_MEASURES = {
  reward: {
    title: 'Average reward',
    axis: 'reward of a pull',
    hint: 'What a pull pays, averaged over the runs.',
    share: false,
  },
  best: {
    title: 'Share of best pulls',
    axis: 'share of pulls of a best arm',
    hint: 'In how many of the runs the pull was one of an arm whose mean pay-off is the largest.',
    share: true,
  },
  regret: {
    title: 'Regret',
    axis: 'regret so far',
    hint: 'How much less the pulls so far pay in expectation than pulling the best arm each time: 0 is never reached, and no growth is ideal.',
    share: false,
  },
} as const
export type PullMeasure = keyof typeof PULL_MEASURES
export const PULL_MEASURE_IDS = Object.keys(PULL_MEASURES) as PullMeasure[]

/** Points of a curve at the most. */
const POINTS = 500

/** How many pulls a point stands for, so that no curve has too many points. */
export function pullsPerPoint(pulls: number): number {
  return Math.ceil(pulls / POINTS)
}

/** How many points a curve over so many pulls has; the last one may stand for fewer pulls. */
export function pointsOf(pulls: number): number {
  return Math.ceil(pulls / pullsPerPoint(pulls))
}

/** The pull that each point ends with, from 1. */
export function lastPulls(pulls: number): Float64Array {
  const bin = pullsPerPoint(pulls)
  return Float64Array.from({ length: pointsOf(pulls) }, (_, i) => Math.min(pulls, (i + 1) * bin))
}

/** Numbers of many runs summed up: all that their mean and its error need. */
export interface Sums {
  /** [points] */
  readonly sums: Float64Array
  readonly squares: Float64Array
}

/** What came of some runs of one agent: sums, so that those of other runs can be added. */
export interface PullSums {
  runs: number
  /** Runs in which a number diverged; the sums leave them out. */
  diverged: number
  /** Each [points]; reward and best pulls are means over the pulls of a point, regret is that at its end. */
  readonly measures: Readonly<Record<PullMeasure, Sums>>
  /** Of the mean reward of whole runs, [1]. */
  readonly score: Sums
}

const emptySums = (points: number): Sums => ({
  sums: new Float64Array(points),
  squares: new Float64Array(points),
})

/** @param measures  where to add, if that is elsewhere than in new arrays */
export function emptyPullSums(
  pulls: number,
  measures: PullSums['measures'] = {
    reward: emptySums(pointsOf(pulls)),
    best: emptySums(pointsOf(pulls)),
    regret: emptySums(pointsOf(pulls)),
  },
): PullSums {
  return { runs: 0, diverged: 0, measures, score: emptySums(1) }
}

/** Adds further runs. Sums of the same parts in the same order are the same to the last bit. */
export function addPullSums(to: PullSums, more: PullSums): void {
  to.runs += more.runs
  to.diverged += more.diverged
  for (const id of PULL_MEASURE_IDS) addSums(to.measures[id], more.measures[id])
  addSums(to.score, more.score)
}

function addSums(to: Sums, { sums, squares }: Sums): void {
  for (let i = 0; i < sums.length; i++) {
    to.sums[i] += sums[i]
    to.squares[i] += squares[i]
  }
}

/** Adds the numbers of one run. */
export function addRun({ sums, squares }: Sums, numbers: Float64Array): void {
  for (let i = 0; i < numbers.length; i++) {
    sums[i] += numbers[i]
    squares[i] += numbers[i] * numbers[i]
  }
}

/** The mean over the runs, and half the width of its 95 % interval; NaN where too few runs came to an end. */
export interface MeanBand {
  /** [points] */
  readonly mean: Float64Array
  /** [points] 1.96 standard errors of the mean; NaN for a single run */
  readonly error: Float64Array
}

export function meanBand({ runs, diverged }: PullSums, { sums, squares }: Sums): MeanBand {
  const count = runs - diverged
  const mean = sums.map((sum) => (count > 0 ? sum / count : NaN))
  const error = squares.map((square, i) => {
    if (count < 2) return NaN
    // Rounding may leave a little less than nothing.
    const variance = Math.max(0, square - count * mean[i] * mean[i]) / (count - 1)
    return 1.96 * Math.sqrt(variance / count)
  })
  return { mean, error }
}
