import { modelOfRun } from '../core/environment/problem-of-run'
import { checkEnvironmentModel } from '../core/check/check'
import type { CheckReport } from '../core/check/finding'
import { readCheckpoint } from '../core/learn/read-checkpoint'
import { policyObject, readPolicy, valuesObject } from '../core/evaluate/policy-file'
import { cutOffSentence, playTrials } from '../core/evaluate/rollout'
import type { Compiled, EnvironmentDocument } from '../core/kinds/kinds'
import { bandOfRuns } from '../core/learn/curves'
import { createLearner } from '../core/learn/methods/learners'
import { learnMethod, type LearnMethodId } from '../core/learn/methods/methods'
import type { LearnChoice } from '../core/settings/choice'
import { capFor, LEARN_DEFAULTS } from '../core/settings/settings'
import type { Learner } from '../core/learn/learner'
import { World } from '../core/learn/world'
import { startValue, type Model, type RowPolicy } from '../core/model/model'
import { evaluatePolicy, firstPolicy, randomPolicy } from '../core/plan/evaluate'
import { actionValues, backupForm, greedyPolicy } from '../core/plan/backup'
import { actionValuesAt } from '../core/plan/moment'
import {
  PLAN_DEFAULTS,
  PLAN_SETTING_NAMES,
  PLAN_SETTINGS,
  type ChosenPlanSettings,
} from '../core/plan/plan-settings'
import { planProblem } from '../core/plan/planner'
import { endingNotes, startWays } from '../core/plan/ending-notes'
import { onePolicy } from '../core/plan/solve'
import { carryCheckpoint } from '../core/learn/checkpoint'
import { createPlanner } from '../core/plan/planners'
import { defaultPlanMethod, planMethod, usesPlanSetting, type PlanMethodId } from '../core/plan/plan-methods'
import type { TableNumbers } from '../core/formats/table-numbers'
import { listNames, refuse } from '../core/problem'

/** Milliseconds between two words about how far long work is. */
const TELLING = 1000

/** Tells how far long work is, on the side. */
export type Progress = (text: string) => void

/** Takes the numbers of what a command came to. */
export type Keep = (found: TableNumbers) => void

interface Opened {
  readonly document: EnvironmentDocument
  readonly model: Model
  readonly compiled: Compiled
}

export function plan(
  { document, model }: Opened,
  options: {
    method?: PlanMethodId
    discount?: number
    settings: Partial<ChosenPlanSettings>
    /** What an evaluation is of, or policy iteration begins with. */
    policy?: RowPolicy
  },
  progress: Progress,
  keep: Keep = () => {},
) {
  const { settings } = options
  const discount = options.discount ?? document.discount
  const started = performance.now()
  const id = options.method ?? (settings.horizon ? 'backward-induction' : defaultPlanMethod(model))
  const method = planMethod(id)
  if ((settings.horizon !== undefined) !== (method.staged === true))
    refuse(
      '--horizon',
      method.staged
        ? `${method.title} needs to know how many steps there are.`
        : `${method.title} knows no horizon.`,
      method.staged ? 'Add --horizon STEPS.' : 'Leave one of --method and --horizon out.',
    )
  for (const name of PLAN_SETTING_NAMES)
    if (settings[name] !== undefined && !usesPlanSetting(method, name))
      refuse(`--${PLAN_SETTINGS[name].flag!.name}`, `${method.title} has no use for it.`, 'Leave it out.')
  if (options.policy && !(method.settings as readonly string[]).includes('policy'))
    refuse(
      '--policy',
      `${method.title} takes no policy.`,
      'Leave it out, or choose a method that evaluates one.',
    )
  const planner = createPlanner(id, model, {
    ...PLAN_DEFAULTS,
    discount,
    policy: options.policy ?? null,
    ...settings,
  })
  let told = started
  while (planner.status.outcome === 'running') {
    planner.sweep()
    if (planner.sweeps % 100 === 0 && performance.now() > told + TELLING) {
      told = performance.now()
      progress(`sweep ${planner.sweeps}, largest change ${planner.change}`)
    }
  }
  const problem = planProblem(planner.status)
  if (problem) refuse('plan', problem, 'See --discount, --tolerance and --method.')
  tellEndings(model, model.cap, settings.horizon ? undefined : progress)
  const staged = method.staged === true
  const ties =
    method.purpose === 'prediction'
      ? planner.policy!
      : greedyPolicy(model.rowStart, actionValuesAt(planner, null, staged))
  // One action a state; undiscounted one that comes to an ending.
  const policy = method.purpose === 'prediction' || staged ? ties : onePolicy(model, ties, discount)
  keep({ values: planner.values, rowValues: actionValuesAt(planner, null, staged), policy, discount })
  return {
    method: id,
    sweeps: planner.sweeps,
    converged: true,
    states: model.labels,
    values: valuesObject(model, planner.values),
    policy: policyObject(model, policy),
    startValue: startValue(model, planner.values),
    ...withoutValue(model, planner.values),
    seconds: secondsSince(started),
  }
}

export function evaluate(
  { document, model }: Opened,
  policy: RowPolicy,
  options: { discount?: number; episodes?: number; seed?: number; cap?: number },
  keep: Keep = () => {},
) {
  const discount = options.discount ?? document.discount
  if (options.episodes) {
    const cap = options.cap ?? capFor(model.cap)
    const trials = playTrials(new World(model), policy, {
      discount,
      episodes: options.episodes,
      cap,
      seed: options.seed ?? LEARN_DEFAULTS.seed,
    })
    const note = cutOffSentence(trials, cap)
    keep(foundOf(model, trials.values, policy, discount))
    return {
      states: model.labels,
      values: valuesObject(model, trials.values),
      startValue: trials.mean,
      standardError: trials.standardError,
      episodes: options.episodes,
      steps: trials.steps,
      cutOff: trials.cutOff,
      remainder: trials.remainder,
      ...(note ? { note } : {}),
    }
  }
  const result = evaluatePolicy(model, policy, discount)
  if (result.outcome === 'never-ends')
    refuse(
      'evaluate',
      `At discount 1 the policy has no finite value at the start: it may never end, from ${listNames(withoutValue(model, result.values).endless ?? [])}.`,
      'Use a discount below 1, or --episodes with a step limit.',
    )
  if (result.outcome !== 'solved')
    refuse(
      'evaluate',
      'The values are not exact enough within the limit of sweeps.',
      'Use a smaller discount.',
    )
  keep(foundOf(model, result.values, policy, discount))
  return {
    states: model.labels,
    values: valuesObject(model, result.values),
    startValue: startValue(model, result.values),
    ...withoutValue(model, result.values),
  }
}

/** The numbers of a policy: what each action is worth when it is followed from then on. */
function foundOf(model: Model, values: Float64Array, policy: RowPolicy, discount: number): TableNumbers {
  return { values, rowValues: actionValues(backupForm(model, discount), values), policy, discount }
}

/** The states without a finite value, where there are any. */
function withoutValue(model: Model, values: Float64Array): { endless?: string[] } {
  const endless = model.labels.filter((_, s) => Number.isNaN(values[s]))
  return endless.length ? { endless } : {}
}

/** Says on the side what is to be known of endings. */
function tellEndings(model: Model, cap: number, progress?: Progress): void {
  for (const note of endingNotes(model, startWays(model), cap || Infinity)) progress?.(`note: ${note}`)
}

/** What was found in an environment, with the shortest way to each. */
export function check({ document, compiled }: Opened): CheckReport {
  return checkEnvironmentModel(document, compiled)
}

/** A policy by name, from the rulebook, or from the JSON of a file. */
export function policyFor(
  { model, compiled }: Opened,
  name: string,
  readFile: (path: string) => unknown,
): RowPolicy {
  if (name === 'random') return randomPolicy(model)
  if (name === 'first') return firstPolicy(model)
  const written = compiled.policies.find(({ title }) => title === name)
  if (written) return written.policy
  return readPolicy(model, readFile(name))
}

export interface LearnOptions {
  readonly method: LearnMethodId
  readonly runs?: number
  /** A learned table to begin from. */
  readonly from?: { readonly name: string; readonly bytes: Uint8Array }
  /** What prediction follows. */
  readonly policy?: RowPolicy
  /** What is said of the settings; those of the environment and of the method where nothing is. */
  readonly settings: Partial<LearnChoice>
}

/** Returns are discounted, mean and quartiles over the runs; policy, values and their exact value are run 1's. */
export function learn(
  { document, model }: Opened,
  options: LearnOptions,
  progress: Progress,
  keep: Keep = () => {},
) {
  const { method: _method, source: _source, ...given } = options.settings
  const method = learnMethod(options.method)
  const discount = given.discount ?? document.discount
  const world = new World(model)
  const runs = options.runs ?? 1
  const episodes = given.episodes ?? LEARN_DEFAULTS.episodes
  if (episodes * runs > 100_000_000)
    refuse('learn', `${episodes} episodes times ${runs} runs are too many returns to keep.`, 'Ask for fewer.')
  // Of all runs but the first only the returns are kept: a learner may hold a memory of its own.
  const returns: Float64Array[] = []
  const firstRun = given.run ?? LEARN_DEFAULTS.run
  const begun = options.from && beginning(options.from, world, options.method, document.name)
  tellEndings(model, given.cap ?? capFor(model.cap), progress)
  let played = episodes
  let finished = 0
  let cutOff = 0
  let first: Learner | undefined
  const started = performance.now()
  let told = started
  let steps = 0
  for (let run = 0; run < runs; run++) {
    const problem = modelOfRun(document, model, given.seed ?? LEARN_DEFAULTS.seed, firstRun + run)
    const settings = {
      ...LEARN_DEFAULTS,
      learningRate: method.defaultLearningRate,
      cap: capFor(model.cap),
      ...given,
      discount,
      policy: options.policy ?? null,
      run: firstRun + run,
    }
    const learner = createLearner(
      options.method,
      problem === model ? world : new World(problem),
      settings,
      'results',
    )
    if (begun) learner.begin(begun)
    while (learner.advance(1_000_000) > 0)
      if (performance.now() > told + TELLING) {
        told = performance.now()
        progress(`run ${run + 1} of ${runs}, episode ${learner.log.count}`)
      }
    const { status, log } = learner
    if (status.outcome === 'diverged') refuse('learn', status.reason, 'See --learning-rate.')
    steps += learner.steps
    returns.push(log.returns.slice(0, log.count))
    // Runs that a stop rule ended are compared as far as all of them came.
    played = Math.min(played, log.count)
    finished += log.count
    for (let k = 0; k < log.count; k++) if (log.lengths[k] < 0) cutOff++
    first ??= learner
  }
  const seconds = secondsSince(started)
  const policy = world.toModelRows(first!.policy())
  const exact = evaluatePolicy(first!.world.model, policy, discount)
  const values = first!.stateValues() ?? exact.values
  const learned = foundOf(model, values, policy, discount)
  keep(
    method.tableHolds === 'action values'
      ? { ...learned, rowValues: world.toModelRows(first!.table) }
      : learned,
  )
  return {
    method: options.method,
    runs,
    returns: {
      episode: Array.from({ length: played }, (_, i) => i + 1),
      ...bandOfRuns(returns.map((run) => run.subarray(0, played))),
    },
    states: model.labels,
    policy: policyObject(model, policy),
    values: valuesObject(model, values),
    exactValueOfPolicy: exact.outcome === 'solved' ? startValue(model, exact.values) : null,
    episodes: finished,
    cutOff,
    steps,
    stepsPerSecond: steps / seconds,
    seconds,
  }
}

/** The table of a file as the method needs it. */
function beginning(
  { name, bytes }: NonNullable<LearnOptions['from']>,
  world: World,
  method: LearnMethodId,
  environment: string,
): Float64Array {
  const holds = learnMethod(method).tableHolds
  return carryCheckpoint(readCheckpoint(bytes, name, world, { method, holds, environment }), world, holds)
    .table
}

function secondsSince(started: number): number {
  return (performance.now() - started) / 1000
}
