import { compileEnvironment } from '../environment/compile'
import { documentOfRun } from '../environment/problem-of-run'
import { playTrials } from '../evaluate/rollout'
import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import { createLearner } from '../learn/methods/learners'
import type { Learner } from '../learn/learner'
import { World } from '../learn/world'
import { EXACT_STATES } from '../limits'
import { modelFingerprint } from '../model/fingerprint'
import { startValue, type Model, type RowPolicy } from '../model/model'
import { evaluatePolicy, randomPolicy } from '../plan/evaluate'
import { solveOptimum } from '../plan/solve'
import { PROGRAM } from '../program'
import { settingsOf, type LearnChoice } from '../settings/choice'
import { FixedAgent, type Player } from './fixed-agent'
import { followedPolicy, type Followed } from './followed'
import { runMeasure, StepWatch } from './run-measures'

/** Points of a curve at the most. */
const POINTS = 200
/** Steps between looks at whether the run is over. */
const CHUNK = 1_000_000
/** Episodes of the two stretches at the beginning that are compared with each other. */
export const STRETCH = 100

/** How many episodes a point of a curve stands for, so that no curve has too many points. */
export function episodesPerPoint(episodes: number): number {
  return Math.ceil(episodes / POINTS)
}

/** The episode that each point ends with, from 1. */
export function lastEpisodes(episodes: number): Float64Array {
  const bin = episodesPerPoint(episodes)
  return Float64Array.from({ length: Math.ceil(episodes / bin) }, (_, i) => Math.min(episodes, (i + 1) * bin))
}

/** What is wanted to be known of runs, besides what is always told. */
export interface RunAsk {
  /** Measures whose source is not the log, see `RUN_MEASURES`. */
  readonly measures: readonly string[]
  /** Episodes without learning after each run; 0 for none. */
  readonly trials: number
}

/** What episodes without learning after a run came to. */
export interface RunTrials {
  readonly episodes: number
  readonly mean: number
  /** The share that succeeded; null where nothing can fail. */
  readonly success: number | null
  readonly length: number
  /** Episodes that the step limit cut off. */
  readonly cutOff: number
  /** Of the environment, by name: mean totals of an episode. */
  readonly measures: Readonly<Record<string, number>>
}

/** What came of a run: small, whatever its length. */
export interface LearningRun {
  /** The number of the run, from 0. */
  readonly run: number
  /** That were asked for; a stop rule may end it before. */
  readonly episodes: number
  /**
   * By measure, each [points]: the mean over the episodes of a point, or the number at its end; NaN where the run was over
   * before. `steps` are those taken by the end of the point.
   */
  readonly curves: Readonly<Record<string, Float64Array>>
  /** The mean return of all its episodes, and of the last tenth of them; NaN where none was finished. */
  readonly mean: number
  readonly late: number
  /** The mean returns of the first and of the next `STRETCH` episodes; NaN where they were not all finished. */
  readonly first: number
  readonly next: number
  /** Of the last `STRETCH` episodes, or of all where there are fewer. */
  readonly last: number
  /** The exact value of the policy it learned; null where there is none, or the model is too large. */
  readonly exact: number | null
  /** The value of the optimal policy of the problem it met; null likewise. */
  readonly optimum: number | null
  /** That of taking every action equally often. */
  readonly random: number | null
  readonly steps: number
  readonly outcome: Learner['status']['outcome']
  readonly trials: RunTrials | null
  /** Of the model of the environment as it is written: tells which version of it the run belongs to. */
  readonly fingerprint: number
  /** The version of the program that played it. */
  readonly program: string
}

/** An agent whose runs are played: all runs but for their numbers are the same. */
export interface LearningTask {
  readonly document: EnvironmentDocument
  readonly choice: LearnChoice
  /** The policy that is followed in place of learning. */
  readonly follows?: Followed
  readonly ask?: RunAsk
}

const NOTHING_MORE: RunAsk = { measures: [], trials: 0 }

/** Whether a run tells all that is asked. */
export function answers(run: LearningRun, { measures, trials }: RunAsk): boolean {
  return (
    run.curves.steps !== undefined &&
    measures.every((id) => run.curves[id] !== undefined) &&
    (trials === 0 || run.trials?.episodes === trials)
  )
}

/** A problem, as it is written or drawn for one run, ready to be played. */
interface Problem {
  readonly compiled: Compiled
  readonly world: World
  /** [rows] what is followed; null for agents that learn */
  readonly policy: RowPolicy | null
  readonly optimum: number | null
  readonly random: number | null
}

/** Plays runs of one contestant, each as Learn plays it. */
export class LearningRuns {
  private readonly written: Problem
  private readonly fingerprint: number

  /** @throws ProblemError for a document that does not compile, or that has no such policy */
  constructor(private readonly task: LearningTask) {
    this.written = this.problemOf(task.document)
    this.fingerprint = modelFingerprint(this.written.world.model)
  }

  /** Outcomes of its model. */
  get size(): number {
    return this.written.world.model.outcomes
  }

  play(run: number): LearningRun {
    const { document, choice, ask = NOTHING_MORE } = this.task
    const drawn = documentOfRun(document, choice.seed, run)
    const problem = drawn === document ? this.written : this.problemOf(drawn)
    const { world, optimum, random } = problem
    const player = this.playerOf(problem, run)
    const curves = recorded(player, problem.compiled, choice, ask)
    const { log } = player
    const policy = problem.policy ?? world.toModelRows(player.policy())
    return {
      run,
      episodes: choice.episodes,
      curves,
      mean: meanOf(log.returns, 0, log.count),
      late: meanOf(log.returns, log.count - Math.ceil(log.count / 10), log.count),
      first: log.count >= STRETCH ? meanOf(log.returns, 0, STRETCH) : NaN,
      next: log.count >= 2 * STRETCH ? meanOf(log.returns, STRETCH, 2 * STRETCH) : NaN,
      last: meanOf(log.returns, Math.max(0, log.count - STRETCH), log.count),
      exact: exactValue(world.model, policy, choice.discount),
      optimum,
      random,
      steps: player.steps,
      outcome: player.status.outcome,
      trials: ask.trials > 0 ? this.trialsOf(problem, policy, run, ask.trials) : null,
      fingerprint: this.fingerprint,
      program: PROGRAM,
    }
  }

  private problemOf(document: EnvironmentDocument): Problem {
    const { choice, follows } = this.task
    const compiled = compileEnvironment(document)
    const small = compiled.model.states <= EXACT_STATES
    return {
      compiled,
      world: new World(compiled.model),
      policy: follows ? followedPolicy(compiled, follows, choice.discount) : null,
      optimum: small ? (solveOptimum(compiled.model, choice.discount)?.start ?? null) : null,
      random: exactValue(compiled.model, randomPolicy(compiled.model), choice.discount),
    }
  }

  private playerOf({ world, policy }: Problem, run: number): Player {
    const { choice } = this.task
    return policy
      ? new FixedAgent(world, policy, choice, run)
      : createLearner(choice.method, world, { ...settingsOf(choice, () => null), run }, 'results')
  }

  /** All contestants meet the same chance in the episodes after a run, and other ones after each run. */
  private trialsOf(
    { world, compiled: { measures } }: Problem,
    policy: RowPolicy,
    run: number,
    episodes: number,
  ): RunTrials {
    const { seed, cap, discount } = this.task.choice
    const trials = playTrials(
      world,
      policy,
      { episodes, seed, cap, discount, first: run * episodes },
      measures,
    )
    return {
      episodes,
      mean: trials.mean,
      success: trials.success,
      length: trials.meanLength,
      cutOff: trials.cutOff,
      measures: Object.fromEntries(measures.map(({ name }, i) => [name, trials.measures[i]])),
    }
  }
}

/** Lets a run be played to its end. @returns its curves, each [points] */
function recorded(
  player: Player,
  compiled: Compiled,
  { episodes, discount }: LearnChoice,
  { measures }: RunAsk,
): Record<string, Float64Array> {
  const { world, log } = player
  const ends = lastEpisodes(episodes)
  const of = (source: string) => measures.filter((id) => runMeasure(id)?.source === source)
  const atPoints = of('point')
  const watch = new StepWatch(world, of('steps'), compiled)
  const curves: Record<string, Float64Array> = {}
  for (const id of ['steps', ...atPoints, ...watch.ids]) curves[id] = new Float64Array(ends.length).fill(NaN)
  for (let i = 0; i < ends.length; i++) {
    const begin = log.count
    const totals = playTo(ends[i], player, watch)
    if (log.count < ends[i]) break
    curves.steps[i] = player.steps
    for (const id of atPoints) curves[id][i] = lookAt(id, player, discount)
    watch.ids.forEach((id, k) => {
      // Regret grows from point to point; the others are means over the episodes of a point.
      curves[id][i] =
        id === 'regret' ? (i > 0 ? curves[id][i - 1] : 0) + totals[k] : totals[k] / (ends[i] - begin)
    })
  }
  return {
    return: binned(log.returns, log.count, episodes),
    length: binned(log.lengths, log.count, episodes),
    ...curves,
  }
}

/** Plays until so many episodes are finished. @returns [watched] what those came to together */
function playTo(end: number, player: Player, watch: StepWatch): Float64Array {
  const totals = new Float64Array(watch.ids.length)
  if (totals.length === 0) while (player.advance(CHUNK, end) > 0);
  else
    for (let count = player.log.count; player.advance(1, end) > 0; count = player.log.count) {
      watch.note(player.last)
      if (player.log.count > count) watch.totals.forEach((total, k) => (totals[k] += total))
    }
  return totals
}

/** A number at the end of a point. */
function lookAt(id: string, player: Player, discount: number): number {
  if (id === 'level') return player.level
  if (id === 'rate') return player.rate
  const { model } = player.world
  const policy = player instanceof FixedAgent ? player.rows : player.world.toModelRows(player.policy())
  return exactValue(model, policy, discount) ?? NaN
}

/** What a policy is worth from the start; null where that is not finite, or the model is too large. */
function exactValue(model: Model, policy: RowPolicy, discount: number): number | null {
  if (model.states > EXACT_STATES) return null
  const result = evaluatePolicy(model, policy, discount)
  return result.outcome === 'solved' ? startValue(model, result.values) : null
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
