import { Command } from 'commander'
import { compileRulebook } from '../src/core/kinds/rulebook/enumerate'
import { createLearner } from '../src/core/learn/methods/learners'
import { constant } from '../src/core/learn/schedule'
import { World } from '../src/core/learn/world'
import { defaultPlanMethod } from '../src/core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import { createPlanner } from '../src/core/plan/planners'
import { sweepForm } from '../src/core/plan/sweep-form'
import { sweepSequence } from '../src/core/plan/sweep-order'
import { createSweeper } from '../src/core/plan/sweeper'
import { LEARN_DEFAULTS } from '../src/core/settings/settings'
import { timed } from './measured'
import { gridBench, rulebookBench } from './models'

/**
 * How seconds and bytes grow with the rows of a model: a line for each size, and the slope of their logarithms, which is 1
 * where cost grows as the work. For the table in docs/methods.md.
 */
interface Point {
  readonly rows: number
  readonly seconds: number
  /** Of the kernel's memory, where there is one; of a model its arrays. */
  readonly bytes: number
}

const DISCOUNT = 0.99
/** Steps that a learner takes, whatever the size. */
const STEPS = 4_000_000
/** More than so many steps can have. */
const EPISODES = 1_000_000

/** What is measured of a model of about so many rows. */
const WORK: Readonly<Record<string, (rows: number) => Point>> = {
  'a sweep': (rows) => {
    const model = gridBench(rows / 4)
    const before = memories
    const sweeper = createSweeper(sweepForm(model, DISCOUNT, sweepSequence(model, 'forward')))
    let [from, to] = sweeper.tables
    const sweeps = Math.max(3, Math.round(3e7 / model.rows))
    const seconds = median(() => {
      for (let i = 0; i < sweeps; i++) {
        sweeper.best(from, to)
        ;[from, to] = [to, from]
      }
    })
    return { rows: model.rows, seconds: seconds / sweeps, bytes: memories - before }
  },
  'an exact solution': (rows) => {
    const model = gridBench(rows / 4)
    let bytes = 0
    const solve = () => {
      const before = memories
      const planner = createPlanner(defaultPlanMethod(model), model, {
        ...PLAN_DEFAULTS,
        discount: DISCOUNT,
        tolerance: 1e-9,
      })
      while (planner.status.outcome === 'running') planner.sweep()
      bytes = memories - before
    }
    return { rows: model.rows, seconds: rows > 2e6 ? timed(solve) : median(solve), bytes }
  },
  [`${STEPS / 1e6} million steps of Q-learning`]: (rows) => {
    const model = gridBench(rows / 4)
    const world = new World(model)
    let bytes = 0
    const seconds = median(() => {
      const before = memories
      const learner = createLearner(
        'q-learning',
        world,
        {
          ...LEARN_DEFAULTS,
          discount: DISCOUNT,
          exploration: { way: 'epsilon-greedy', level: constant(0.1) },
          learningRate: constant(0.1),
          episodes: EPISODES,
          cap: model.cap,
        },
        'results',
      )
      for (let left = STEPS; left > 0 && learner.status.outcome === 'learning';)
        left -= learner.advance(Math.min(50_000, left))
      if (learner.steps < STEPS) throw new Error('There were too few episodes for so many steps.')
      // The log of the episodes has nothing to do with the model.
      bytes = memories - before - 12 * EPISODES
    })
    return { rows: model.rows, seconds, bytes }
  },
  'compiling a rulebook': (rows) => {
    const document = rulebookBench(rows / 5)
    const { model } = compileRulebook(document, 200)
    return {
      rows: model.rows,
      seconds: median(() => void compileRulebook(document, 200)),
      bytes: Object.values(model).reduce<number>(
        (sum, part) => sum + (ArrayBuffer.isView(part) ? part.byteLength : 0),
        0,
      ),
    }
  },
}

/** Bytes of the memories of kernels so far. */
let memories = 0
WebAssembly.Memory = class extends WebAssembly.Memory {
  constructor(descriptor: WebAssembly.MemoryDescriptor) {
    super(descriptor)
    memories += descriptor.initial * 65_536
  }
}

function median(work: () => void): number {
  return Array.from({ length: 3 }, () => timed(work)).sort((a, b) => a - b)[1]
}

/** The slope of a line through logarithms (least squares). */
function slope(points: readonly Point[], of: (point: Point) => number): number {
  const x = points.map(({ rows }) => Math.log(rows))
  const y = points.map((point) => Math.log(of(point)))
  const mean = (numbers: readonly number[]) => numbers.reduce((sum, each) => sum + each, 0) / numbers.length
  const [mx, my] = [mean(x), mean(y)]
  return (
    x.reduce((sum, each, i) => sum + (each - mx) * (y[i] - my), 0) /
    x.reduce((sum, each) => sum + (each - mx) ** 2, 0)
  )
}

const program = new Command('growth')
  .description('How seconds and bytes grow with the rows of a model.')
  .option('--most <rows>', 'the largest models', '1000000')
  .option('--only <text>', 'what has this in its name', '')
program.parse(process.argv)
const { most: mostText, only } = program.opts<{ most: string; only: string }>()
const most = Number(mostText)
for (const [what, measure] of Object.entries(WORK)) {
  if (!what.includes(only)) continue
  const points: Point[] = []
  for (let rows = 1000; rows <= most; rows *= 10) {
    const point = measure(rows)
    points.push(point)
    console.log(
      `${what} | ${point.rows} | ${point.seconds.toPrecision(3)} s | ${(point.bytes / point.rows).toFixed(0)} bytes a row`,
    )
  }
  // Of small models the fixed costs would tell.
  const large = points.filter(({ rows }) => rows > 5000)
  console.log(`${what} | slope of seconds ${slope(large, ({ seconds }) => seconds).toFixed(2)}`)
}
