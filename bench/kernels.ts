import { checkEnvironmentModel } from '../src/core/check/check'
import { createPullPlayer } from '../src/core/compare/pull-players'
import { compileEnvironment } from '../src/core/environment/compile'
import { newHead } from '../src/core/environment/head'
import { newBandit } from '../src/core/kinds/bandit/blank'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { compileRulebook } from '../src/core/kinds/rulebook/enumerate'
import { createLearner } from '../src/core/learn/methods/learners'
import type { LearnMethodId } from '../src/core/learn/methods/methods'
import { constant } from '../src/core/learn/schedule'
import { World } from '../src/core/learn/world'
import type { Model } from '../src/core/model/model'
import { defaultPlanMethod } from '../src/core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import { createPlanner } from '../src/core/plan/planners'
import { sweepForm } from '../src/core/plan/sweep-form'
import { sweepSequence } from '../src/core/plan/sweep-order'
import { createSweeper, plainSweeper } from '../src/core/plan/sweeper'
import { LEARN_DEFAULTS } from '../src/core/settings/settings'
import type { Asked, Measured } from './measured'
import { endingsBenchDocument, rulebookBench } from './models'

const DISCOUNT = 0.99
/** Pulls of a run. */
const PULLS = 1000
/** Methods that move preferences. */
const GENTLE: ReadonlySet<LearnMethodId> = new Set(['reinforce', 'actor-critic'])
/** Steps that a learner takes at a time, as in a worker. */
const CHUNK = 50_000

/** Kernels that work on a model of the bench. */
export const MODEL_KERNELS: Readonly<Record<string, (model: Model, asked: Asked) => Measured>> = {
  'q-learning': learning('q-learning', 10_000_000),
  sarsa: learning('sarsa', 10_000_000),
  'expected-sarsa': learning('expected-sarsa', 10_000_000),
  'double-q-learning': learning('double-q-learning', 6_000_000),
  'td-0': learning('td-0', 10_000_000),
  'td-lambda': learning('td-lambda', 2_000_000),
  'dyna-q': learning('dyna-q', 1_000_000),
  reinforce: learning('reinforce', 4_000_000),
  'actor-critic': learning('actor-critic', 6_000_000),
  'sarsa-lambda': learning('sarsa-lambda', 2_000_000),
  'q-lambda': learning('q-lambda', 2_000_000),
  'value-iteration': sweeping,
  solve: solving,
}

/** Kernels that have a model of their own. */
export const OTHER_KERNELS: Readonly<
  Record<string, { readonly model: string; measure(asked: Asked): Measured }>
> = {
  compile: { model: 'rulebook', measure: compiling },
  bandit: { model: 'arms', measure: pulling },
  check: { model: 'endings', measure: checking },
}

/** Steps of a learner, after a tenth of them to warm up. */
function learning(method: LearnMethodId, usual: number) {
  return (model: Model, { amount = usual, keeps }: Asked): Measured => {
    const settings = {
      ...LEARN_DEFAULTS,
      discount: DISCOUNT,
      exploration: { way: 'epsilon-greedy' as const, level: constant(0.1) },
      learningRate: constant(GENTLE.has(method) ? 0.01 : 0.1),
      criticRate: constant(0.1),
      // More than there can be.
      episodes: 50_000_000,
      cap: model.cap,
    }
    const learner = createLearner(method, new World(model), settings, keeps)
    const run = (steps: number) => {
      for (let left = steps; left > 0;) left -= learner.advance(Math.min(CHUNK, left))
    }
    run(Math.ceil(amount / 10))
    return { unit: 'steps/s', amount, round: () => run(amount) }
  }
}

/** Synchronous sweeps of best backups. */
function sweeping(model: Model, { amount, plain }: Asked): Measured {
  const form = sweepForm(model, DISCOUNT, sweepSequence(model, 'forward'))
  const rows = plain ? plainSweeper(form) : createSweeper(form)
  let [from, to] = rows.tables
  const sweeps = amount ?? Math.max(4, Math.round(2e8 / model.outcomes))
  const run = (count: number) => {
    for (let i = 0; i < count; i++) {
      rows.best(from, to)
      ;[from, to] = [to, from]
    }
  }
  run(Math.ceil(sweeps / 10))
  // All states count, as in the program beside which this is measured: endings cost next to nothing there as here.
  return { unit: 'backups/s', amount: model.states * sweeps, round: () => run(sweeps) }
}

/** From the model to values within 1e-9, everything that has to be laid out first included. */
function solving(model: Model, { method = defaultPlanMethod(model) }: Asked): Measured {
  return {
    unit: 'solutions/s to 1e-9',
    amount: 1,
    round: () => {
      const planner = createPlanner(method, model, { ...PLAN_DEFAULTS, discount: DISCOUNT, tolerance: 1e-9 })
      while (planner.status.outcome === 'running') planner.sweep()
      if (planner.status.outcome !== 'converged') throw new Error(planner.status.outcome)
    },
  }
}

/** From the text of a rulebook to its model. */
function compiling({ states }: Asked): Measured {
  compileRulebook(rulebookBench(1000), 200)
  const document = rulebookBench(states)
  const { model } = compileRulebook(document, 200)
  return {
    unit: 'rows/s',
    amount: model.rows,
    states: model.states,
    round: () => void compileRulebook(document, 200),
  }
}

/** Runs of 1,000 pulls of an ε-greedy agent, each of arms of its own (means and rewards normal, deviation 1). */
function pulling({ states: arms, amount: runs = 5_000 }: Asked): Measured {
  const blank = newBandit('Arms')
  const player = createPullPlayer({
    document: {
      ...blank,
      bandit: {
        ...{ contexts: [], pulls: 1, drift: { type: 'none' }, hidden: false, anew: 1 },
        arms: Array.from({ length: arms }, (_, i) => ({
          name: `arm ${i}`,
          pays: [{ type: 'gaussian', mean: 0, deviation: 1 }],
        })),
      },
    },
    method: 'bandit-values',
    settings: {
      ...LEARN_DEFAULTS,
      discount: 1,
      cap: 1,
      exploration: { way: 'epsilon-greedy', level: constant(0.1) },
      learningRate: { kind: 'visits', from: 1, slowness: 1 },
    },
    pulls: PULLS,
  })
  const play = (count: number) => {
    for (let run = 0; run < count; run++) player.play(run)
  }
  play(runs / 10)
  return { unit: 'pulls/s', amount: runs * PULLS, round: () => play(runs) }
}

/** All rules of Check on a grid: pairs of state and action a second. */
function checking({ states }: Asked): Measured {
  const documentOf = (size: number): EnvironmentDocument => ({
    ...newHead('Grid', ''),
    kind: 'grid',
    grid: endingsBenchDocument(size),
  })
  const small = documentOf(1000)
  checkEnvironmentModel(small, compileEnvironment(small))
  const document = documentOf(states)
  const compiled = compileEnvironment(document)
  const { model } = compiled
  return {
    unit: 'rows/s',
    amount: model.rows,
    states: model.states,
    round: () => void checkEnvironmentModel(document, compiled),
  }
}
