import { compileEnvironment } from '../environment/compile'
import { documentOfRun } from '../environment/problem-of-run'
import type { EnvironmentDocument } from '../kinds/kinds'
import { createLearner } from '../learn/methods/learners'
import type { Learner } from '../learn/learner'
import { World } from '../learn/world'
import { EXACT_STATES } from '../limits'
import { startValue } from '../model/model'
import { evaluatePolicy } from '../plan/evaluate'
import { settingsOf, type LearnChoice } from '../settings/choice'

/** Points of a curve at the most. */
const POINTS = 200
/** Steps between looks at whether the run is over. */
const CHUNK = 1_000_000

/** What is told of every episode of a run, each once. */
export const RUN_MEASURES = {
  return: {
    title: 'Return while learning',
    axis: 'discounted return of an episode',
    hint: 'The discounted return of the episodes, exploring included.',
  },
  length: {
    title: 'Length of episodes',
    axis: 'steps of an episode',
    hint: 'How many steps the episodes take.',
  },
} as const
export type RunMeasure = keyof typeof RUN_MEASURES
export const RUN_MEASURE_IDS = Object.keys(RUN_MEASURES) as RunMeasure[]

/** How many episodes a point of a curve stands for, so that no curve has too many points. */
export function episodesPerPoint(episodes: number): number {
  return Math.ceil(episodes / POINTS)
}

/** The episode that each point ends with, from 1. */
export function lastEpisodes(episodes: number): Float64Array {
  const bin = episodesPerPoint(episodes)
  return Float64Array.from({ length: Math.ceil(episodes / bin) }, (_, i) => Math.min(episodes, (i + 1) * bin))
}

/** What came of a run: small, whatever its length. */
export interface LearningRun {
  /** The number of the run, from 0. */
  readonly run: number
  /** Each [points]: the mean over the episodes of a point; NaN where the run was over before. */
  readonly curves: Readonly<Record<RunMeasure, Float64Array>>
  /** The mean return of all its episodes, and of the last tenth of them; NaN where none was finished. */
  readonly mean: number
  readonly late: number
  /** The exact value of the policy it learned; null where there is none, or the model is too large. */
  readonly exact: number | null
  readonly steps: number
  readonly outcome: Learner['status']['outcome']
}

/** An agent whose runs are played: all runs but for their numbers are the same. */
export interface LearningTask {
  readonly document: EnvironmentDocument
  readonly choice: LearnChoice
}

/** Plays runs of one contestant, each as Learn plays it. */
export class LearningRuns {
  private readonly written: World

  /** @throws ProblemError for a document that does not compile */
  constructor(private readonly task: LearningTask) {
    this.written = new World(compileEnvironment(task.document).model)
  }

  play(run: number): LearningRun {
    const { document, choice } = this.task
    const drawn = documentOfRun(document, choice.seed, run)
    const world = drawn === document ? this.written : new World(compileEnvironment(drawn).model)
    const learner = createLearner(choice.method, world, { ...settingsOf(choice, () => null), run })
    while (learner.advance(CHUNK) > 0);
    const { log } = learner
    let exact: number | null = null
    if (world.model.states <= EXACT_STATES) {
      const result = evaluatePolicy(world.model, world.toModelRows(learner.policy()), choice.discount)
      if (result.outcome === 'solved') exact = startValue(world.model, result.values)
    }
    return {
      run,
      curves: {
        return: binned(log.returns, log.count, choice.episodes),
        length: binned(log.lengths, log.count, choice.episodes),
      },
      mean: meanOf(log.returns, 0, log.count),
      late: meanOf(log.returns, log.count - Math.ceil(log.count / 10), log.count),
      exact,
      steps: learner.steps,
      outcome: learner.status.outcome,
    }
  }
}

/** Means over the episodes of each point; sizes count, as a length below 0 is one that was cut off. */
function binned(numbers: ArrayLike<number>, count: number, episodes: number): Float64Array {
  const bin = episodesPerPoint(episodes)
  const sized = numbers instanceof Int32Array
  return Float64Array.from({ length: Math.ceil(episodes / bin) }, (_, i) => {
    const end = Math.min(episodes, (i + 1) * bin)
    return count < end ? NaN : meanOf(numbers, i * bin, end, sized)
  })
}

function meanOf(numbers: ArrayLike<number>, from: number, end: number, sized = false): number {
  let sum = 0
  for (let i = from; i < end; i++) sum += sized ? Math.abs(numbers[i]) : numbers[i]
  return end > from ? sum / (end - from) : NaN
}
