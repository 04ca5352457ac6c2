import type { ExplorationWay } from '../../learn/explore/explorations'
import { GreedyTable } from '../../learn/greedy-table'
import { rateOfVisit, scheduleAt, standsAfter, type Pace, type Schedule } from '../../learn/schedule'
import { divergedBeyond } from '../../learn/tabular-learner'
import { INSIDE, REACH, SCALE } from '../../random/gaussian'
import { logarithm } from '../../random/logarithm'
import { RandomStream } from '../../random/generator'
import type { LearnSettings } from '../../settings/settings'
import { exportsOf, moduleOf, REGISTERS, Room, type Registers } from '../../wasm/room'
import { ArmTables, roomForArms } from '../arm-tables'
import { episodesOf, type PullPlayer, type PullTask } from '../pull-task'
import { addRun, emptyPullSums, pointsOf, pullsPerPoint, type PullSums, type Sums } from '../pull-sums'
import { PULLS_CODE } from './pulls-code'

/** Ways to choose that the kernel knows: the order is that of pulls.as, with preferences last. */
const WAYS: readonly ExplorationWay[] = [
  'epsilon-greedy',
  'softmax',
  'ucb1',
  'ucb1-tuned',
  'count-bonus',
  'explore-then-commit',
  'posterior-gaussian',
  'posterior-bernoulli',
]
const PREFERENCES = WAYS.length
const BASELINES: Record<LearnSettings['baseline']['kind'], number> = {
  none: 0,
  constant: 1,
  mean: 2,
  learned: NaN,
}

/** Registers of the kernel: the order is that of pulls.as. */
const INTS = [
  'way',
  'arms',
  'contexts',
  'perEpisode',
  'pulls',
  'firstOfTies',
  'bin',
  'baselineKind',
  'outcomeStart',
  'outcomeContext',
  'outcomeReward',
  'threshold',
  'guide',
  'startThreshold',
  'startGuide',
  'gap',
  'values',
  'visits',
  'greedy',
  'totals',
  'levels',
  'levelByEpisode',
  'levelByPull',
  'rates',
  'rateByEpisode',
  'rateByPull',
  'rateByVisits',
  'logs',
  'environment',
  'exploration',
  'ties',
  'seen',
  'more',
  'scratch',
  'means',
  'rewardOut',
  'bestOut',
  'regretOut',
  'cap',
  'layers',
  'bits',
  'records',
  'problem',
  'writtenMeans',
  'deviations',
  'slices',
] as const
const REALS = ['most', 'temperature', 'baselineConstant', 'total', 'regret', 'anew', 'rewardLimit'] as const

interface Kernel {
  run(registers: number): number
  redraw(registers: number): void
  add(numbers: number, sums: number, squares: number, length: number): void
}

const pullsModule = moduleOf(PULLS_CODE)

/** @returns null where the kernel does not know the agent or the bandit, or WebAssembly is not to be had */
export function fastPlayer(task: PullTask): FastPlayer | null {
  const way = wayOf(task)
  if (way < 0 || task.document.bandit.drift.type !== 'none') return null
  const code = pullsModule()
  const room = code && roomFor(task)
  return code && room ? new FastPlayer(task, way, code, room) : null
}

function wayOf({ method, settings }: PullTask): number {
  if (method === 'bandit-values') return WAYS.indexOf(settings.exploration.way)
  const { stepRule, normLimit, entropy, baseline } = settings
  return method === 'gradient-bandit' &&
    stepRule.kind === 'plain' &&
    normLimit === 0 &&
    entropy === 0 &&
    baseline.kind !== 'learned'
    ? PREFERENCES
    : -1
}

function roomFor(task: PullTask): Room | null {
  const { bandit } = task.document
  const { rows, outcomes } = roomForArms(bandit)
  const contexts = Math.max(1, bandit.contexts.length)
  const cells = contexts * bandit.arms.length
  return Room.of(
    4 * (rows + 1 + 3 * outcomes + 5 * contexts + 12) +
      8 *
        (outcomes +
          64 +
          12 * cells +
          2 * contexts +
          3 * task.pulls +
          10 +
          ZIGGURAT +
          9 * pointsOf(task.pulls)),
    60,
  )
}

/** Numbers in the tables of the ziggurat. */
const ZIGGURAT = REACH.length + INSIDE.length + SCALE.length

function ziggurat(room: Room): Float64Array {
  const tables = room.floats(ZIGGURAT)
  tables.set([...REACH, ...INSIDE, ...SCALE])
  return tables
}

/** Runs by pulls.as; a test holds it to the bits of the learners. */
class FastPlayer implements PullPlayer {
  private readonly kernel: Kernel
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>
  private readonly tables: ArmTables
  private readonly greedy: GreedyTable
  private readonly startOfSeen: number
  /** Arrays that begin a run with zeros. */
  private readonly fresh: readonly (Float64Array | Int32Array)[]
  private readonly more: Float64Array
  /** Where all arms are normal and drawn anew, the kernel does it. */
  private readonly problem: Int32Array | null
  private readonly words: Readonly<Record<'environment' | 'exploration' | 'ties', Int32Array>>
  private readonly outs: readonly (readonly [numbers: Float64Array, sums: Sums])[]
  private sums: PullSums

  constructor(
    private readonly task: PullTask,
    way: number,
    code: WebAssembly.Module,
    room: Room,
  ) {
    const { settings, pulls } = task
    const { arms, contexts } = (this.tables = new ArmTables(task.document.bandit, room))
    const cells = contexts * arms
    this.kernel = exportsOf<Kernel>(code, room, 'The pulls')
    this.registers = room.registers(INTS, REALS)
    this.greedy = new GreedyTable(
      Int32Array.from({ length: contexts + 1 }, (_, c) => c * arms),
      room,
    )
    const visits = room.floats(cells)
    const totals = room.ints(contexts)
    const seen = room.floats(cells)
    const means = room.floats(contexts)
    this.more = room.floats(cells)
    this.fresh = [visits, totals, seen, means]
    // A success pays 1 until one was seen.
    this.startOfSeen = settings.exploration.way === 'posterior-bernoulli' ? 1 : 0
    this.words = { environment: room.ints(4), exploration: room.ints(4), ties: room.ints(4) }
    const points = pointsOf(pulls)
    const sums = (): Sums => ({ sums: room.floats(points), squares: room.floats(points) })
    const measures = { reward: sums(), best: sums(), regret: sums() }
    this.sums = emptyPullSums(pulls, measures)
    const out = { reward: room.floats(points), best: room.floats(points), regret: room.floats(points) }
    this.outs = [
      [out.reward, measures.reward],
      [out.best, measures.best],
      [out.regret, measures.regret],
    ]
    const { level } = settings.exploration
    const levels = stretch(room, task, level, level)
    const rates = stretch(room, task, settings.learningRate, level)
    const logs = room.floats(pulls + 1)
    for (let n = 1; n <= pulls; n++) logs[n] = logarithm(n)
    const normal = this.tables.normalArms
    this.problem = normal && room.ints(4)
    const filled = (numbers: readonly number[]) => {
      const copy = room.floats(numbers.length)
      copy.set(numbers)
      return copy
    }
    const { outcomeStart, outcomeContext, outcomeReward, threshold, guide, startThreshold, startGuide, gap } =
      this.tables
    const { values, records } = this.greedy
    this.registers.set({
      way,
      arms,
      contexts,
      perEpisode: task.document.bandit.pulls,
      cap: settings.cap,
      pulls,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
      bin: pullsPerPoint(pulls),
      baselineKind: BASELINES[settings.baseline.kind],
      ...{ outcomeStart, outcomeContext, outcomeReward, threshold, guide, startThreshold, startGuide, gap },
      ...{ values, greedy: records, visits, totals, seen, means },
      more: this.more,
      scratch: room.floats(arms),
      levels: levels.numbers,
      levelByEpisode: levels.by === 'episode' ? 1 : 0,
      levelByPull: levels.by === 'step' ? 1 : 0,
      rates: rates.numbers,
      rateByEpisode: rates.by === 'episode' ? 1 : 0,
      rateByPull: rates.by === 'step' ? 1 : 0,
      rateByVisits: rates.by === 'visits' ? 1 : 0,
      logs,
      ...this.words,
      layers: ziggurat(room),
      bits: this.tables.bits,
      records: room.floats(4 * arms),
      ...(normal && this.problem
        ? {
            problem: this.problem,
            writtenMeans: filled(normal.means),
            deviations: filled(normal.deviations),
            slices: filled(normal.slices),
            anew: task.document.bandit.anew,
          }
        : {}),
      rewardOut: out.reward,
      bestOut: out.best,
      regretOut: out.regret,
      temperature: settings.temperature,
      baselineConstant: settings.baseline.kind === 'constant' ? settings.baseline.value : 0,
    })
  }

  play(run: number): void {
    const { task, registers, greedy, words, sums, kernel } = this
    const { settings, pulls } = task
    const { seed, start } = settings
    let rewardLimit: number
    if (this.problem) {
      new RandomStream(seed, 'problem', run, this.problem)
      kernel.redraw(REGISTERS)
      rewardLimit = registers.reals[registers.real.rewardLimit]
    } else {
      this.tables.drawFor(seed, run)
      rewardLimit = this.tables.rewardLimit
    }
    for (const array of this.fresh) array.fill(0)
    this.more.fill(this.startOfSeen)
    if (start.kind === 'random') {
      const stream = new RandomStream(seed, 'table', run)
      for (let cell = 0; cell < greedy.values.length; cell++)
        greedy.values[cell] = (2 * stream.uniform() - 1) * start.spread
    } else greedy.values.fill(start.kind === 'constant' ? start.value : 0)
    greedy.refreshAll()
    new RandomStream(seed, 'environment', run, words.environment)
    new RandomStream(seed, 'exploration', run, words.exploration)
    new RandomStream(seed, 'ties', run, words.ties)
    registers.reals[registers.real.most] = divergedBeyond(settings, rewardLimit)
    sums.runs++
    if (kernel.run(REGISTERS) < pulls) {
      sums.diverged++
      return
    }
    for (const [numbers, { sums, squares }] of this.outs)
      kernel.add(numbers.byteOffset, sums.byteOffset, squares.byteOffset, numbers.length)
    addRun(sums.score, Float64Array.of(registers.reals[registers.real.total] / pulls))
  }

  take(): PullSums {
    const { measures, score, runs, diverged } = this.sums
    const copied = ({ sums, squares }: Sums): Sums => ({ sums: sums.slice(), squares: squares.slice() })
    const taken = {
      runs,
      diverged,
      measures: {
        reward: copied(measures.reward),
        best: copied(measures.best),
        regret: copied(measures.regret),
      },
      score,
    }
    for (const { sums, squares } of Object.values(measures)) {
      sums.fill(0)
      squares.fill(0)
    }
    this.sums = emptyPullSums(this.task.pulls, measures)
    return taken
  }
}

/** A schedule written out: a number for each pull, episode or visit, or a single one. */
interface Stretched {
  readonly numbers: Float64Array
  readonly by: 'nothing' | 'episode' | 'step' | 'visits'
}

/** @param level  the schedule of exploration, which a rate that drops goes by */
function stretch(room: Room, task: PullTask, schedule: Schedule, level: Schedule): Stretched {
  const numbersBy = (by: Stretched['by'], length: number, of: (i: number) => number): Stretched => {
    const numbers = room.floats(length)
    for (let i = 0; i < length; i++) numbers[i] = of(i)
    return { numbers, by }
  }
  const lengths = { step: task.pulls, episode: episodesOf(task) }
  // With a pull an episode both are the same.
  const pace = (per: Pace): Pace => (lengths.episode === lengths.step ? 'step' : per)
  switch (schedule.kind) {
    case 'constant':
      return numbersBy('nothing', 1, () => schedule.from)
    case 'linear':
    case 'exponential':
      return numbersBy(pace(schedule.per), lengths[schedule.per], (i) => scheduleAt(schedule, i))
    case 'visits':
      return numbersBy('visits', task.pulls + 1, (n) => (n === 0 ? schedule.from : rateOfVisit(schedule, n)))
    case 'drop': {
      const per = 'per' in level ? level.per : 'episode'
      const stands = standsAfter(level)
      return numbersBy(pace(per), lengths[per], (i) => (i >= stands ? schedule.to : schedule.from))
    }
  }
}
