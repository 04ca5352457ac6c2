import { policyObject, readPolicy, valuesObject } from '../core/evaluate/policy-file'
import { samplePolicy } from '../core/evaluate/sample'
import type { Compiled, EnvironmentDocument } from '../core/environment/document'
import { bandOfRuns } from '../core/learn/curves'
import { learnMethod, type LearnMethodId } from '../core/learn/methods'
import { constant } from '../core/learn/schedule'
import type { LearnChoice } from '../core/learn/settings-schema'
import { capFor, LEARN_DEFAULTS } from '../core/learn/settings'
import type { Learner } from '../core/learn/learner'
import { World } from '../core/learn/world'
import { startValue, type Model, type RowPolicy } from '../core/model/model'
import { evaluatePolicy, firstPolicy, randomPolicy } from '../core/plan/evaluate'
import { greedyPolicy } from '../core/plan/backup'
import { actionValuesAt } from '../core/plan/moment'
import { PLAN_DEFAULTS, planProblem } from '../core/plan/planner'
import { defaultPlanMethod, planMethod, type PlanMethodId } from '../core/plan/plan-methods'
import { listNames, refuse } from '../core/problem'

/** Tells how far long work is, on the side. */
export type Progress = (text: string) => void

interface Opened {
  readonly document: EnvironmentDocument
  readonly model: Model
  readonly compiled: Compiled
}

export function plan(
  { document, model }: Opened,
  options: { method?: PlanMethodId; discount?: number; tolerance?: number; horizon?: number },
  progress: Progress,
) {
  const discount = options.discount ?? document.discount
  const started = performance.now()
  const id = options.method ?? (options.horizon ? 'backward-induction' : defaultPlanMethod(model))
  const method = planMethod(id)
  if ((options.horizon !== undefined) !== (method.staged === true))
    refuse(
      '--horizon',
      method.staged
        ? `${method.title} needs to know how many steps there are.`
        : `${method.title} knows no horizon.`,
      method.staged ? 'Add --horizon STEPS.' : 'Leave one of --method and --horizon out.',
    )
  const planner = method.create(model, {
    ...PLAN_DEFAULTS,
    discount,
    tolerance: options.tolerance ?? PLAN_DEFAULTS.tolerance,
    horizon: options.horizon ?? PLAN_DEFAULTS.horizon,
  })
  while (planner.status.outcome === 'running') {
    planner.sweep()
    if (planner.sweeps % 1000 === 0) progress(`sweep ${planner.sweeps}, largest change ${planner.change}`)
  }
  const { outcome } = planner.status
  if (outcome === 'never-ends' || outcome === 'gains-for-ever' || outcome === 'improper')
    refuse('plan', planProblem(planner.status)!, 'See --discount.')
  const policy =
    method.finds === 'worth'
      ? planner.policy!
      : greedyPolicy(model.rowStart, actionValuesAt(planner, null, method.staged === true))
  return {
    method: id,
    sweeps: planner.sweeps,
    converged: outcome === 'converged',
    values: valuesObject(model, planner.values),
    policy: policyObject(model, policy),
    startValue: startValue(model, planner.values),
    seconds: secondsSince(started),
  }
}

export function evaluate(
  { document, model }: Opened,
  policy: RowPolicy,
  options: { discount?: number; episodes?: number; seed?: number; cap?: number },
) {
  const discount = options.discount ?? document.discount
  if (options.episodes) {
    const sample = samplePolicy(new World(model), policy, {
      discount,
      episodes: options.episodes,
      cap: options.cap ?? capFor(model.cap),
      seed: options.seed ?? LEARN_DEFAULTS.seed,
    })
    return {
      values: valuesObject(model, sample.values),
      startValue: sample.mean,
      standardError: sample.standardError,
      episodes: sample.episodes,
      steps: sample.steps,
      cutOff: sample.cutOff,
    }
  }
  const result = evaluatePolicy(model, policy, discount)
  if (result.outcome === 'never-ends')
    refuse(
      'evaluate',
      `At discount 1 the policy has no finite value: it never ends from ${listNames(result.states)}.`,
      'Use a discount below 1, or --episodes with a cap.',
    )
  if (result.outcome === 'budget-spent')
    refuse(
      'evaluate',
      'The values were not exact enough within the limit of sweeps.',
      'Use a smaller discount.',
    )
  return { values: valuesObject(model, result.values), startValue: startValue(model, result.values) }
}

/** What the checks of an environment found, the shortest way to each breach included. */
export function check({ model, compiled }: Opened) {
  const facts = compiled.facts
  const findings = [
    ...(facts?.checks ?? []).flatMap(({ title, broken }) =>
      broken
        ? [
            {
              severity: 'error' as const,
              rule: title,
              message: `The check "${title}" is broken${broken.chances ? ` with ${broken.chances}` : ''}.`,
              where: `${broken.state}, action ${broken.action}`,
              path: broken.path,
            },
          ]
        : [],
    ),
    ...(facts?.notes ?? []).map(({ place, cause, remedy }) => ({
      severity: 'warning' as const,
      rule: 'policy',
      message: `${cause} ${remedy}`,
      where: place,
      path: [],
    })),
  ]
  return { findings, states: model.states, rows: model.rows }
}

/** A policy by name, from the rulebook, or from the JSON of a file. */
export function policyFor(
  { model, compiled }: Opened,
  name: string,
  readFile: (path: string) => unknown,
): RowPolicy {
  if (name === 'random') return randomPolicy(model)
  if (name === 'first') return firstPolicy(model)
  const written = compiled.facts?.policies.find(({ title }) => title === name)
  if (written) return written.policy
  return readPolicy(model, readFile(name))
}

export interface LearnOptions {
  readonly method: LearnMethodId
  readonly episodes?: number
  readonly runs?: number
  readonly seed?: number
  readonly discount?: number
  readonly learningRate?: number
  readonly exploration?: number
  readonly cap?: number
  readonly lambda?: number
  readonly lookahead?: number
  readonly planning?: number
  /** What prediction follows. */
  readonly policy?: RowPolicy
  /** What a file of settings says; the options beside it go first. */
  readonly settings?: Partial<LearnChoice>
}

/** Returns are discounted, mean and quartiles over the runs; policy, values and their exact value are run 1's. */
export function learn({ document, model }: Opened, options: LearnOptions, progress: Progress) {
  const given = options.settings ?? {}
  const method = learnMethod(options.method)
  const discount = options.discount ?? given.discount ?? document.discount
  const world = new World(model)
  const runs = options.runs ?? 1
  const episodes = options.episodes ?? given.episodes ?? LEARN_DEFAULTS.episodes
  if (episodes * runs > 100_000_000)
    refuse('learn', `${episodes} episodes times ${runs} runs are too many returns to keep.`, 'Ask for fewer.')
  // Of all runs but the first only the returns are kept: a learner may hold a memory of its own.
  const returns: Float64Array[] = []
  let first: Learner | undefined
  const started = performance.now()
  let steps = 0
  for (let run = 0; run < runs; run++) {
    const learner = method.create(world, {
      ...LEARN_DEFAULTS,
      learningRate: method.defaultLearningRate,
      cap: capFor(model.cap),
      ...given,
      discount,
      episodes,
      ...(options.learningRate === undefined ? {} : { learningRate: constant(options.learningRate) }),
      ...(options.exploration === undefined
        ? {}
        : { exploration: { way: 'epsilon-greedy', level: constant(options.exploration) } as const }),
      ...said({
        cap: options.cap,
        seed: options.seed,
        lambda: options.lambda,
        lookahead: options.lookahead,
        planning: options.planning,
      }),
      policy: options.policy ?? null,
      run,
    })
    while (learner.advance(1_000_000) > 0) progress(`run ${run + 1} of ${runs}, episode ${learner.log.count}`)
    const { status, log } = learner
    if (status.outcome === 'diverged') refuse('learn', status.reason, 'See --learning-rate.')
    steps += learner.steps
    returns.push(log.returns.slice(0, log.count))
    first ??= learner
  }
  const seconds = secondsSince(started)
  const { table } = first!
  const policy = world.modelPolicy(first!.policy())
  const exact = evaluatePolicy(model, policy, discount)
  const exactValues = exact.outcome === 'solved' ? exact.values : new Float64Array(model.states).fill(NaN)
  const values =
    method.tableHolds === 'action values'
      ? bestOfTable(world, table)
      : method.tableHolds === 'values'
        ? Float64Array.from(world.observation, (group) => table[group])
        : exactValues
  // Runs that a stop rule ended are compared as far as all of them came.
  const played = returns.reduce((least, { length }) => Math.min(least, length), episodes)
  return {
    method: options.method,
    runs,
    returns: {
      episode: Array.from({ length: played }, (_, i) => i + 1),
      ...bandOfRuns(returns.map((run) => run.subarray(0, played))),
    },
    policy: policyObject(model, policy),
    values: valuesObject(model, values),
    exactValueOfPolicy: exact.outcome === 'solved' ? startValue(model, exact.values) : null,
    steps,
    stepsPerSecond: steps / seconds,
    seconds,
  }
}

/** What was said, of options that may be left out. */
function said<T extends object>(options: T): { [K in keyof T]?: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(options).filter(([, value]) => value !== undefined)) as never
}

function bestOfTable(world: World, table: Float64Array): Float64Array {
  return Float64Array.from(world.observation, (group) => {
    const rows = table.subarray(world.tableStart[group], world.tableStart[group + 1])
    return rows.length ? rows.reduce((most, value) => Math.max(most, value), -Infinity) : 0
  })
}

function secondsSince(started: number): number {
  return (performance.now() - started) / 1000
}
