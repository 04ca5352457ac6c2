import { Command, Option } from 'commander'
import { KEEPINGS, type Keeping } from '../src/core/learn/learner'
import { PLAN_METHOD_IDS, type PlanMethodId } from '../src/core/plan/plan-methods'
import { comparing } from './comparing'
import { MODEL_KERNELS, OTHER_KERNELS } from './kernels'
import { figuresOf, type Asked, type Figures } from './measured'
import { BENCH_MODELS, modelSums, type BenchModel } from './models'

/** Models that are measured when none is named. */
const USUAL: readonly BenchModel[] = ['grid', 'business']

const program = new Command('bench')
  .description('Measures the kernels; one line a kernel, the median of some rounds.')
  .addOption(
    new Option('--kernel <name>', 'model: tells the sums of the models').choices([
      ...Object.keys(MODEL_KERNELS),
      ...Object.keys(OTHER_KERNELS),
      'compare',
      'model',
    ]),
  )
  .addOption(new Option('--model <name>').choices(Object.keys(BENCH_MODELS)))
  .option('--states <count>', 'about how many states', '4096')
  .option('--amount <count>', 'steps, sweeps or runs in a round')
  .option('--rounds <count>', 'rounds to take the median of', '5')
  .addOption(
    new Option('--keeps <what>', 'what a learner keeps of its run').choices(KEEPINGS).default('results'),
  )
  .addOption(new Option('--method <name>', 'for solve').choices(PLAN_METHOD_IDS))
  .option('--plain', 'sweeps in TypeScript, not in WebAssembly (for value-iteration)')
  .option('--json', 'one JSON object a line')
program.parse(process.argv)
const options = program.opts<{
  kernel?: string
  model?: BenchModel
  states: string
  amount?: string
  rounds: string
  keeps: Keeping
  method?: PlanMethodId
  plain?: boolean
  json?: boolean
}>()
const { kernel } = options
const rounds = wholeNumber('--rounds', options.rounds, 1)
const asked: Asked = {
  states: wholeNumber('--states', options.states, 2),
  amount: options.amount === undefined ? undefined : wholeNumber('--amount', options.amount, 1),
  keeps: options.keeps,
  method: options.method,
  plain: options.plain ?? false,
}
if (kernel === 'compare') tell({ kernel, model: 'endings', ...(await comparing(asked.states, asked.amount)) })
for (const [name, { model, measure }] of Object.entries(OTHER_KERNELS)) {
  if (name !== kernel && (kernel || options.model || name !== 'compile')) continue
  const measured = measure(asked)
  tell({
    kernel: name,
    model,
    states: measured.states ?? asked.states,
    ...figuresOf(measured, rounds),
  })
}
for (const name of options.model ? [options.model] : USUAL) {
  const kernels = Object.entries(MODEL_KERNELS).filter(([id]) => id === (kernel ?? id))
  if (kernels.length === 0 && kernel !== 'model') break
  const model = BENCH_MODELS[name](asked.states)
  if (kernel === 'model')
    console.log(JSON.stringify({ lang: 'ts', kernel, model: name, ...modelSums(model) }))
  for (const [id, measure] of kernels) {
    const measured = measure(model, asked)
    tell({ kernel: id, model: name, states: model.states, ...figuresOf(measured, rounds) })
  }
}

function tell(line: Figures & { kernel: string; model: string; states: number }): void {
  const keeps = line.unit === 'steps/s' ? { keeps: asked.keeps } : {}
  if (options.json) return console.log(JSON.stringify({ ...line, ...keeps }))
  const { kernel: name, model, states, rate, unit, seconds } = line
  const [slowest, fastest] = [line.rounds[0], line.rounds.at(-1)!].map((each) => each.toPrecision(3))
  console.log(
    `${name.padEnd(16)} ${model.padEnd(9)} ${String(states).padStart(8)} states  ${rate.toPrecision(4).padStart(10)} ${unit}${
      keeps.keeps ? `, keeps ${keeps.keeps}` : ''
    }  (${line.rounds.length} rounds of ${seconds.toFixed(2)} s: ${slowest} to ${fastest})`,
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
