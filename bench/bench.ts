import { createPlanner } from '../src/core/plan/planners'
import { createLearner } from '../src/core/learn/methods/learners'
import { resolve } from 'node:path'
import { Command, Option } from 'commander'
import { checkEnvironmentModel } from '../src/core/check/check'
import type { Contestant } from '../src/core/compare/contestant'
import { chunksOf, plannedTasks, type RunChunk } from '../src/core/compare/run-plan'
import { compileEnvironment } from '../src/core/environment/compile'
import { newHead } from '../src/core/environment/head'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { choiceIn } from '../src/core/settings/first-choice'
import { createRunPool } from '../src/hosts/node/run-pool'
import { type LearnMethodId } from '../src/core/learn/methods/methods'
import { constant } from '../src/core/learn/schedule'
import { LEARN_DEFAULTS } from '../src/core/settings/settings'
import { World } from '../src/core/learn/world'
import type { Model } from '../src/core/model/model'
import { defaultPlanMethod, PLAN_METHOD_IDS, type PlanMethodId } from '../src/core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import type { Planner } from '../src/core/plan/planner'
import { sweepForm } from '../src/core/plan/sweep-form'
import { createSweeper, plainSweeper } from '../src/core/plan/sweeper'
import { sweepSequence } from '../src/core/plan/sweep-order'
import { createPullPlayer } from '../src/core/compare/pull-players'
import { newBandit } from '../src/core/kinds/bandit/blank'
import { compileRulebook } from '../src/core/kinds/rulebook/enumerate'
import { businessBench, gridBench, gridBenchDocument, rulebookBench } from './models'

/** One measured kernel, as one line of JSON. */
interface Line {
  readonly kernel: string
  readonly model: string
  readonly states: number
  readonly rate: number
  readonly unit: string
  readonly seconds: number
}

type Measure = (model: Model, amount: number | undefined) => Pick<Line, 'rate' | 'unit' | 'seconds'>

/** Each kernel; `amount` is how many steps or sweeps to measure. */
const KERNELS: Record<string, Measure> = {
  'q-learning': learning('q-learning', 20_000_000),
  sarsa: learning('sarsa', 20_000_000),
  reinforce: learning('reinforce', 5_000_000),
  'value-iteration': (model, amount) => {
    const form = sweepForm(model, 0.99, sweepSequence(model, 'forward'))
    const rows = options.plain ? plainSweeper(form) : createSweeper(form)
    let [from, to] = rows.tables
    const sweeps = amount ?? Math.max(10, Math.round(4e8 / model.outcomes))
    const run = (count: number) => {
      for (let i = 0; i < count; i++) {
        rows.best(from, to)
        ;[from, to] = [to, from]
      }
    }
    run(Math.ceil(sweeps / 10))
    const seconds = timed(() => run(sweeps))
    const backups = model.states - model.ending.reduce((sum, ending) => sum + ending, 0)
    return { rate: (backups * sweeps) / seconds, unit: 'backups/s', seconds }
  },
  solve: (model) => solve(model, (options.method as PlanMethodId | undefined) ?? defaultPlanMethod(model)),
}

/** From the model to values within 1e-9, everything that has to be laid out first included. */
function solve(model: Model, method: PlanMethodId): ReturnType<Measure> {
  let planner: Planner | undefined
  const seconds = timed(() => {
    planner = createPlanner(method, model, { ...PLAN_DEFAULTS, discount: 0.99, tolerance: 1e-9 })
    while (planner.status.outcome === 'running') planner.sweep()
  })
  if (planner!.status.outcome !== 'converged') throw new Error(planner!.status.outcome)
  console.error(`${method}: ${planner!.sweeps} sweeps, ${planner!.backups} backups`)
  return { rate: 1 / seconds, unit: 'solutions/s to 1e-9', seconds }
}

/** Steps of a learner, in chunks as a worker takes them, after a tenth of them to warm up. */
function learning(method: LearnMethodId, usual: number): Measure {
  return (model, amount = usual) => {
    const world = new World(model)
    const learner = createLearner(method, world, {
      ...LEARN_DEFAULTS,
      discount: 0.95,
      learningRate: constant(method === 'reinforce' ? 0.001 : 0.1),
      episodes: amount + 1_000_000,
      cap: model.cap,
    })
    const run = (steps: number) => {
      for (let left = steps; left > 0;) left -= learner.advance(Math.min(50_000, left))
    }
    run(Math.ceil(amount / 10))
    const seconds = timed(() => run(amount))
    return { rate: amount / seconds, unit: 'steps/s', seconds }
  }
}

/** Runs of 1,000 pulls of an ε-greedy agent, each of arms of its own (means and rewards normal, deviation 1). */
function bandit(arms: number, runs = 20_000): ReturnType<Measure> {
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
    pulls: 1000,
  })
  for (let run = 0; run < runs / 10; run++) player.play(run)
  const seconds = timed(() => {
    for (let run = 0; run < runs; run++) player.play(run)
  })
  return { rate: (runs * 1000) / seconds, unit: 'pulls/s', seconds }
}

/**
 * Five contestants with 30 runs of 5,000 episodes each on a grid, on all cores: steps a second, all of them together.
 * Says on the side how busy the cores were.
 */
async function compare(states: number, episodes = 5000): Promise<ReturnType<Measure> & { states: number }> {
  const document: EnvironmentDocument = {
    ...newHead('Grid', ''),
    kind: 'grid',
    grid: gridBenchDocument(states),
  }
  const contestants = (['q-learning', 'sarsa', 'q-learning', 'sarsa', 'q-learning'] as const).map(
    (method, id): Contestant => ({
      id,
      knobs: {},
      choice: choiceIn(document, { method, episodes, learningRate: constant(0.1 + id / 100) }),
    }),
  )
  const planned = plannedTasks(contestants, document, { measures: [], trials: 0 })
  const chunks = chunksOf(planned.length, 30, 4)
  const pool = createRunPool(resolve('.workers/runs.mjs'))
  const play = async ({ task, from, to }: RunChunk) => {
    const runs = await pool.run({ key: planned[task].key, task: planned[task].task, from, to }, 0)
    return runs.reduce((sum, { steps }) => sum + steps, 0)
  }
  await Promise.all(chunks.slice(0, 4).map(play))
  const [started, used] = [performance.now(), process.cpuUsage()]
  const steps = (await Promise.all(chunks.map(play))).reduce((sum, taken) => sum + taken, 0)
  const seconds = (performance.now() - started) / 1000
  const { user, system } = process.cpuUsage(used)
  console.error(
    `compare: ${chunks.length} chunks, ${pool.slots} cores ${Math.round((user + system) / 1e4 / seconds / pool.slots)} % busy`,
  )
  await pool.close()
  return {
    rate: steps / seconds,
    unit: 'steps/s',
    seconds,
    states: compileEnvironment(document).model.states,
  }
}

/** All rules of Check on a grid: pairs of state and action a second. */
function check(states: number): ReturnType<Measure> & { states: number } {
  const documentOf = (size: number): EnvironmentDocument => ({
    ...newHead('Grid', ''),
    kind: 'grid',
    grid: gridBenchDocument(size),
  })
  const small = documentOf(1000)
  checkEnvironmentModel(small, compileEnvironment(small))
  const document = documentOf(states)
  const compiled = compileEnvironment(document)
  const seconds = timed(() => checkEnvironmentModel(document, compiled))
  return {
    rate: compiled.model.rows / seconds,
    unit: 'rows/s',
    seconds,
    states: compiled.model.states,
  }
}

function timed(work: () => void): number {
  const started = performance.now()
  work()
  return (performance.now() - started) / 1000
}

const program = new Command('bench')
  .description('Measures the kernels; one line a kernel.')
  .addOption(
    new Option('--kernel <name>').choices([...Object.keys(KERNELS), 'compile', 'bandit', 'compare', 'check']),
  )
  .addOption(new Option('--model <name>').choices(['grid', 'business', 'rulebook']))
  .option('--states <count>', 'about how many states', '4096')
  .option('--amount <count>', 'steps or sweeps to measure')
  .addOption(new Option('--method <name>', 'for solve').choices(PLAN_METHOD_IDS))
  .option('--plain', 'sweeps in TypeScript, not in WebAssembly (for value-iteration)')
  .option('--json', 'one JSON object a line')
program.parse(process.argv)
const options = program.opts<{
  method?: string
  plain?: boolean
  kernel?: string
  model?: string
  states: string
  amount?: string
  json?: boolean
}>()
const states = wholeNumber('--states', options.states, 2)
const amount = options.amount === undefined ? undefined : wholeNumber('--amount', options.amount, 1)
if (options.kernel === 'compile' || options.model === 'rulebook' || !(options.kernel || options.model)) {
  const document = rulebookBench(states)
  compileRulebook(rulebookBench(1000), 200)
  let model: Model | undefined
  const seconds = timed(() => (model = compileRulebook(document, 200).model))
  tell({
    kernel: 'compile',
    model: 'rulebook',
    states: model!.states,
    rate: model!.rows / seconds,
    unit: 'rows/s',
    seconds,
  })
}
if (options.kernel === 'compare')
  tell({ kernel: 'compare', model: 'grid', ...(await compare(states, amount)) })
if (options.kernel === 'check') tell({ kernel: 'check', model: 'grid', ...check(states) })
if (options.kernel === 'bandit') tell({ kernel: 'bandit', model: 'arms', states, ...bandit(states, amount) })
for (const name of options.model ? [options.model] : ['grid', 'business']) {
  if (name === 'rulebook' || ['compile', 'bandit', 'compare', 'check'].includes(options.kernel ?? '')) break
  const model = name === 'grid' ? gridBench(states) : businessBench(states)
  for (const kernel of options.kernel ? [options.kernel] : Object.keys(KERNELS)) {
    tell({ kernel, model: name, states: model.states, ...KERNELS[kernel](model, amount) })
  }
}

function tell(line: Line): void {
  const { kernel, model, states, rate, unit, seconds } = line
  console.log(
    options.json
      ? JSON.stringify(line)
      : `${kernel.padEnd(16)} ${model.padEnd(9)} ${String(states).padStart(8)} states  ${rate.toPrecision(4).padStart(10)} ${unit}  (${seconds.toFixed(2)} s)`,
  )
}

function wholeNumber(name: string, text: string, least: number): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < least) {
    console.error(`${name}: "${text}" is not a whole number from ${least}.`)
    process.exit(2)
  }
  return value
}
