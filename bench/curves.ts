import { createLearner } from '../src/core/learn/methods/learners'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TitleComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { compileEnvironment } from '../src/core/environment/compile'
import { readEnvironment } from '../src/core/environment/read'
import type { ExplorationWay } from '../src/core/learn/explore/explorations'
import { learnMethod, type LearnMethodId } from '../src/core/learn/methods/methods'
import { constant } from '../src/core/learn/schedule'
import { LEARN_DEFAULTS, type LearnSettings } from '../src/core/settings/settings'
import { World } from '../src/core/learn/world'
import type { Model } from '../src/core/model/model'
import { tenArms } from '../src/core/testing/bandits'
import { drawers, roomsWalk } from '../src/core/testing/learning'

/** The classic comparisons of docs/methods.md, run by our own learners: one SVG each, and the numbers on stdout. */
register([LineChart, GridComponent, LegendComponent, TitleComponent, SVGRenderer])

const FOLDER = 'docs/curves'
const COLOURS = ['#1b2a41', '#7a3b5e', '#2f6b57', '#a8641b', '#4a6a85']

interface Figure {
  readonly file: string
  readonly x: string
  readonly y: string
  readonly lines: readonly {
    readonly title: string
    readonly points: readonly (readonly [number, number])[]
  }[]
  readonly range?: readonly [number, number]
}

function draw({ file, x, y, lines, range }: Figure): void {
  const chart = init(null, null, { renderer: 'svg', ssr: true, width: 760, height: 300 })
  const name = { color: '#4b5563', fontSize: 12 }
  chart.setOption({
    animation: false,
    backgroundColor: '#fbf7ee',
    color: COLOURS,
    grid: { left: 60, right: 24, top: 62, bottom: 46 },
    title: { text: y, left: 12, top: 6, textStyle: { ...name, fontWeight: 'bold' } },
    legend: { top: 28, left: 52, textStyle: name },
    xAxis: { type: 'value', name: x, nameLocation: 'middle', nameGap: 28, nameTextStyle: name },
    yAxis: {
      type: 'value',
      min: range?.[0],
      max: range?.[1],
    },
    series: lines.map(({ title, points }, i) => ({
      type: 'line',
      name: title,
      data: points,
      symbol: points.length < 30 ? ['circle', 'diamond', 'rect', 'triangle'][i % 4] : 'none',
      lineStyle: { width: 2, type: i % 2 ? 'dashed' : 'solid' },
    })),
  })
  mkdirSync(FOLDER, { recursive: true })
  writeFileSync(`${FOLDER}/${file}.svg`, chart.renderToSVGString())
  chart.dispose()
  console.log(`\n${file}: ${y} by ${x}`)
  for (const { title, points } of lines) {
    const [first, last] = [points[0], points.at(-1)!]
    const best = points.reduce((least, point) => (point[1] < least[1] ? point : least))
    console.log(
      `  ${title}: ${first[1].toFixed(3)} at ${first[0]}, ${last[1].toFixed(3)} at ${last[0]}, least ${best[1].toFixed(3)} at ${best[0]}`,
    )
  }
}

function run(method: LearnMethodId, model: Model, settings: Partial<LearnSettings>) {
  const learner = createLearner(method, new World(model), {
    ...LEARN_DEFAULTS,
    discount: 1,
    cap: 1000,
    learningRate: learnMethod(method).defaultLearningRate,
    ...settings,
  })
  while (learner.advance(1_000_000) > 0);
  return learner
}

function demo(file: string): Model {
  return compileEnvironment(readEnvironment(readFileSync(`demo/${file}.json`, 'utf8'), '')).model
}

/** The mean over runs of a number for each episode, in bins of `bin`. */
function overRuns(
  runs: number,
  episodes: number,
  bin: number,
  of: (run: number) => ArrayLike<number>,
): [number, number][] {
  const sums = new Float64Array(Math.floor(episodes / bin))
  for (let n = 0; n < runs; n++) {
    const numbers = of(n)
    for (let i = 0; i < sums.length * bin; i++) sums[Math.floor(i / bin)] += numbers[i]
  }
  return Array.from(sums, (sum, i) => [(i + 1) * bin, sum / (runs * bin)])
}

// On-policy and off-policy beside a hazard.
const beam = demo('alarm-beam')
draw({
  file: 'on-and-off-policy',
  x: 'episode',
  y: 'return while learning (mean of 200 runs, 30 episodes each)',
  range: [-40, 10],
  lines: (['q-learning', 'sarsa', 'expected-sarsa'] as const).map((method) => ({
    title: learnMethod(method).title,
    points: overRuns(
      200,
      3000,
      30,
      (n) =>
        run(method, beam, { episodes: 3000, learningRate: constant(0.1), discount: 0.98, cap: 200, run: n })
          .log.returns,
    ),
  })),
})

// The maximisation bias.
const cabinet = drawers()
draw({
  file: 'maximisation-bias',
  x: 'episode',
  y: 'share of runs that open the cabinet (2,000 runs)',
  range: [0, 0.6],
  lines: (['q-learning', 'double-q-learning'] as const).map((method) => ({
    title: learnMethod(method).title,
    points: overRuns(2000, 300, 5, (n) => {
      const learner = run(method, cabinet, { episodes: 300, cap: 10, run: n })
      // Two steps: the cabinet was opened; one: home at once.
      return Array.from(learner.log.lengths, (length) => Math.abs(length) - 1)
    }),
  })),
})

// How far to look back: λ and the learning rate on a walk over nineteen rooms.
const walk = roomsWalk(19)
const rates = [0.02, 0.05, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1]
const exact = Array.from({ length: 19 }, (_, i) => (i + 1) / 20)
draw({
  file: 'traces',
  x: 'learning rate',
  y: 'root mean square error after 10 episodes (100 runs)',
  range: [0, 0.5],
  lines: [0, 0.4, 0.8, 0.9, 1].map((lambda) => ({
    title: `λ ${lambda}`,
    points: rates.flatMap((rate): [number, number][] => {
      let sum = 0
      for (let n = 0; n < 100; n++) {
        const { table } = run('td-lambda', walk, {
          episodes: 10,
          lambda,
          traces: 'accumulating',
          learningRate: constant(rate),
          start: { kind: 'constant', value: 0.5 },
          run: n,
        })
        sum += Math.sqrt(exact.reduce((square, value, i) => square + (table[i + 1] - value) ** 2, 0) / 19)
      }
      const error = sum / 100
      return error < 0.5 ? [[rate, error]] : []
    }),
  })),
})

// Bootstrapping against returns.
const short = roomsWalk(5)
const truth = [1, 2, 3, 4, 5].map((k) => k / 6)
draw({
  file: 'bootstrapping',
  x: 'episode',
  y: 'root mean square error (mean of 200 runs)',
  range: [0, 0.3],
  lines: (
    [
      ['td-0', 0.15],
      ['td-0', 0.05],
      ['monte-carlo-prediction', 0.04],
      ['monte-carlo-prediction', 0.01],
    ] as const
  ).map(([method, rate]) => ({
    title: `${method === 'td-0' ? 'TD(0)' : 'Monte Carlo'}, rate ${rate}`,
    points: overRuns(200, 100, 1, (n) => {
      const learner = createLearner(method, new World(short), {
        ...LEARN_DEFAULTS,
        discount: 1,
        cap: 1000,
        episodes: 100,
        counted: 'every',
        learningRate: constant(rate),
        start: { kind: 'constant', value: 0.5 },
        run: n,
      })
      return Array.from({ length: 100 }, (_, episode) => {
        learner.advance(1e6, episode + 1)
        return Math.sqrt(
          truth.reduce((square, value, i) => square + (learner.table[i + 1] - value) ** 2, 0) / 5,
        )
      })
    }),
  })),
})

// Planning with what was seen.
const rounds = demo('night-rounds')
draw({
  file: 'planning',
  x: 'episode',
  y: 'return while learning (mean of 100 runs, 4 episodes each)',
  range: [-60, 10],
  lines: [
    ...[0, 5, 50].map((planning) => ({
      title: `Dyna-Q, ${planning} planned`,
      points: overRuns(
        100,
        200,
        4,
        (n) =>
          run('dyna-q', rounds, { episodes: 200, planning, discount: 0.98, cap: 200, run: n }).log.returns,
      ),
    })),
    {
      title: 'prioritised sweeping, 50',
      points: overRuns(
        100,
        200,
        4,
        (n) =>
          run('prioritised-sweeping', rounds, {
            episodes: 200,
            planning: 50,
            discount: 0.98,
            cap: 200,
            run: n,
          }).log.returns,
      ),
    },
  ],
})

// Ten arms, another problem in every run: the agents every course begins with.
const PROBLEMS = 1000
const PULLS = 1000
const problems = Array.from({ length: PROBLEMS }, (_, n) => tenArms(n))
const mean = { kind: 'visits', from: 1, slowness: 1 } as const
const by = (
  way: ExplorationWay,
  level: number,
  rest: Partial<LearnSettings> = {},
): Partial<LearnSettings> => ({
  exploration: { way, level: constant(level) },
  learningRate: mean,
  ...rest,
})
const agents: readonly (readonly [title: string, method: LearnMethodId, Partial<LearnSettings>])[] = [
  ['ε 0', 'bandit-values', by('epsilon-greedy', 0)],
  ['ε 0.01', 'bandit-values', by('epsilon-greedy', 0.01)],
  ['ε 0.1', 'bandit-values', by('epsilon-greedy', 0.1)],
  ['UCB, 2 √(ln t / n)', 'bandit-values', by('ucb1', Math.SQRT2)],
  ['posterior sampling', 'bandit-values', by('posterior-gaussian', 1)],
]
/** Of each pull, one by one: its reward, and 1 where the best arm was pulled. */
function pulled(method: LearnMethodId, settings: Partial<LearnSettings>, n: number) {
  const { model, best } = problems[n]
  const learner = createLearner(method, new World(model), {
    ...LEARN_DEFAULTS,
    discount: 1,
    cap: 1,
    learningRate: learnMethod(method).defaultLearningRate,
    ...settings,
    episodes: PULLS,
    run: n,
  })
  const hits = Array.from({ length: PULLS }, () => {
    learner.advance(1)
    return learner.last.row === best ? 1 : 0
  })
  return { hits, rewards: learner.log.returns }
}
const played = agents.map(([title, method, settings]) => ({
  title,
  runs: problems.map((_, n) => pulled(method, settings, n)),
}))
draw({
  file: 'bandit-rewards',
  x: 'pull',
  y: `reward (mean of ${PROBLEMS} problems of ten arms, 10 pulls each)`,
  range: [0, 1.6],
  lines: played.map(({ title, runs }) => ({
    title,
    points: overRuns(PROBLEMS, PULLS, 10, (n) => runs[n].rewards),
  })),
})
draw({
  file: 'bandit-best-arm',
  x: 'pull',
  y: 'share of pulls of the best arm',
  range: [0, 1],
  lines: played.map(({ title, runs }) => ({
    title,
    points: overRuns(PROBLEMS, PULLS, 10, (n) => runs[n].hits),
  })),
})

// The score of a whole run over the setting of its agent.
const powers = [-7, -6, -5, -4, -3, -2, -1, 0, 1, 2]
const study = (title: string, from: number, to: number, of: (x: number) => Partial<LearnSettings>) => ({
  title,
  points: powers
    .filter((power) => power >= from && power <= to)
    .map((power): [number, number] => {
      let sum = 0
      for (let n = 0; n < 200; n++) {
        const { rewards } = pulled(
          title.startsWith('gradient') ? 'gradient-bandit' : 'bandit-values',
          of(2 ** power),
          n,
        )
        sum += rewards.reduce((total, reward) => total + reward, 0) / PULLS / 200
      }
      return [power, sum]
    }),
})
draw({
  file: 'bandit-settings',
  x: 'setting, as a power of 2',
  y: 'mean reward over the first 1,000 pulls (200 problems)',
  range: [1, 1.5],
  lines: [
    study('ε-greedy, ε', -7, -2, (x) => by('epsilon-greedy', x)),
    study('gradient, rate', -5, 2, (x) => ({ learningRate: constant(x), baseline: { kind: 'mean' } })),
    study('UCB, c √(ln t / n)', -4, 2, (x) => by('ucb1', x / Math.SQRT2)),
    study('optimistic, first value', -2, 2, (x) =>
      by('epsilon-greedy', 0, { learningRate: constant(0.1), start: { kind: 'constant', value: x } }),
    ),
  ],
})

// Policy search: what a baseline and a critic do.
draw({
  file: 'policy-search',
  x: 'episode',
  y: 'return while learning on Night rounds (mean of 50 runs, 20 episodes each)',
  range: [-50, 5],
  lines: (
    [
      ['REINFORCE', 'reinforce', { learningRate: constant(0.002) }],
      [
        'with learned values as its baseline',
        'reinforce',
        { learningRate: constant(0.02), baseline: { kind: 'learned' } },
      ],
      ['actor-critic (one step)', 'actor-critic', { learningRate: constant(0.05) }],
      [
        'advantage over 8 steps, λ 0.9',
        'generalised-advantage',
        { learningRate: constant(0.03), lookahead: 8, lambda: 0.9 },
      ],
      ['exact gradient', 'exact-ascent', { learningRate: constant(0.05) }],
    ] as const
  ).map(([title, method, settings]) => ({
    title,
    points: overRuns(
      method === 'exact-ascent' ? 1 : 50,
      1000,
      20,
      (n) =>
        run(method, rounds, { ...settings, episodes: 1000, discount: 0.98, cap: 200, run: n }).log.returns,
    ),
  })),
})
