import type { Working } from '../explain/working'
import { formatCount, formatNumber, significantNumber } from '../formats/number'
import { greedyPolicy } from '../plan/backup'
import { RandomStream } from '../random/generator'
import type { Actor } from './explore/actor'
import { EXPLORATIONS } from './explore/explorations'
import { Following } from './explore/following'
import { EpisodeLog } from './episode-log'
import { advanceFast, type FastSteps } from './fast-steps'
import type { GreedyTable } from './greedy-table'
import { plainArrays, type Allocate } from './greedy-table'
import { numbersOf, type KeptNumber } from './kept-number'
import type {
  Changes,
  LastStep,
  Learner,
  LearnSnapshot,
  LearnStatus,
  LearnTable,
  UpdateNote,
} from './learner'
import { rateOfVisit, scheduleAt, standsAfter, type Schedule } from './schedule'
import type { LearnSettings } from '../settings/settings'
import { SLOT, SLOT_SIZE } from './slots'
import type { World } from './world'

/** Changed cells that are remembered of a step. */
export const REMEMBERED = 4096
/** A number this many times what any return can be has run away. */
const RUNAWAY = 1000

/**
 * What all learners share: the round of choosing, stepping and learning, schedules, the log, guards, and a memory that
 * can be taken out and put back. A method says what is learned from a step, and from an episode.
 *
 * An ending is worth 0. A cap cuts an episode off but is no ending: whoever looks ahead does so there too.
 */
export abstract class TabularLearner implements Learner {
  readonly log: EpisodeLog
  readonly visits: Float64Array
  readonly last: LastStep = { state: -1, row: -1, reward: 0, next: -1, explored: false, ended: 'no' }
  readonly changes: Changes
  status: LearnStatus = { outcome: 'learning' }
  notes: UpdateNote[] | null = null
  steps = 0
  state = -1
  age = 0
  level = 0
  rate = 0
  protected abstract readonly actor: Actor
  /** The row chosen for the step to come, where the method chose ahead; else -1. */
  chosen = -1
  /** [observations x fields] the last update of each, to be explained later */
  protected readonly slots: Float64Array
  protected readonly environment: RandomStream
  protected readonly exploration: RandomStream
  protected readonly ties: RandomStream
  returned = 0
  power = 1
  /** The discount of the step at hand: that of the settings, times what its outcome discounts besides. */
  protected discount: number
  /** [observations] the discount in the last update of each; null where it is that of the settings everywhere */
  private readonly discounts: Float64Array | null
  /** 1 while the action chosen last was a random one. */
  exploring = 0
  /** A number of the table beyond this has run away. */
  protected readonly most: number
  /** Whether a schedule goes by steps; else nothing changes within an episode. */
  private readonly ticksEveryStep: boolean

  constructor(
    readonly world: World,
    readonly settings: LearnSettings,
    /** Numbers a working needs of each observation. */
    protected readonly slotSize = SLOT_SIZE,
    protected readonly allocate: Allocate = plainArrays,
  ) {
    const { seed, run, discount } = settings
    this.discount = discount
    this.changes = { cells: allocate.ints(REMEMBERED), before: allocate.floats(REMEMBERED), count: 0 }
    this.discounts = world.model.outcomeDiscount ? allocate.floats(world.model.observations) : null
    this.log = new EpisodeLog(settings.episodes, allocate)
    this.visits = allocate.floats(world.tableRows)
    this.slots = allocate.floats(world.model.observations * slotSize).fill(-1)
    this.environment = new RandomStream(seed, 'environment', run, allocate.ints(4))
    this.exploration = new RandomStream(seed, 'exploration', run, allocate.ints(4))
    this.ties = new RandomStream(seed, 'ties', run, allocate.ints(4))
    this.ticksEveryStep = [settings.exploration.level, settings.learningRate].some(
      (schedule) => 'per' in schedule && schedule.per === 'step',
    )
    this.most = divergedBeyond(settings, world.rewardLimit)
  }

  private readonly fastSteps: FastSteps = {
    plain: (limit, episodes) => this.advancePlainly(limit, episodes),
    tick: () => this.tick(),
    many: (limit, until) => this.takeMany!(limit, until),
    check: () => this.checkStop(),
  }

  /** Steps by a kernel, for learners that have one: as many as asked for, or until so many episodes are finished. */
  protected takeMany?(limit: number, until: number): number

  abstract readonly table: Float64Array
  abstract working(observation: number): Working | undefined

  get eligibility(): Float64Array | null {
    return null
  }

  choice(observation: number): Working | undefined {
    const { world, actor } = this
    const lines = actor.explain?.(observation)
    if (!lines?.length) return undefined
    const { labels, actions } = world.model
    return {
      title: `The next choice in ${labels[world.someState(observation)]}`,
      formula: [],
      lines: lines.map((line, k) => ({
        label: actions[world.tableAction[world.tableStart[observation] + k]],
        ...line,
      })),
    }
  }

  bounds(): Float64Array | null {
    const { world, actor } = this
    if (!actor.bound) return null
    const bounds = new Float64Array(world.tableRows)
    for (let o = 0; o < world.model.observations; o++)
      for (let r = world.tableStart[o]; r < world.tableStart[o + 1]; r++) bounds[r] = actor.bound(o, r)
    return bounds
  }

  baseline(): Float64Array | null {
    return null
  }

  /** Of a table of action values; methods with other tables tell theirs. */
  tables(): Readonly<Record<string, LearnTable>> {
    return { 'action values': { holds: 'action values', numbers: this.table } }
  }

  stateValues(table = this.table): Float64Array | null {
    return this.world.bestOfRows(table)
  }

  advance(limit: number, episodes = Infinity): number {
    // Updates that are to be noted down are made one by one.
    return this.takeMany && !this.notes
      ? advanceFast(this, this.fastSteps, limit, episodes)
      : this.advancePlainly(limit, episodes)
  }

  private advancePlainly(limit: number, episodes: number): number {
    const { log } = this
    let taken = 0
    while (taken < limit && log.count < episodes && this.status.outcome === 'learning') {
      this.step()
      taken++
    }
    return taken
  }

  policy(): Float64Array {
    return greedyPolicy(this.world.tableStart, this.table)
  }

  behaviour(only?: number): Float64Array {
    const { tableStart, tableRows } = this.world
    const policy = new Float64Array(tableRows)
    // As it would act next; being asked must leave no mark.
    const { level, rate } = this
    this.tick()
    for (let observation = 0; observation < tableStart.length - 1; observation++)
      if ((only ?? observation) === observation && tableStart[observation] < tableStart[observation + 1])
        this.actor.chances(observation, policy.subarray(tableStart[observation], tableStart[observation + 1]))
    this.level = level
    this.rate = rate
    if (this.actor.level !== undefined) this.actor.level = level
    return policy
  }

  begin(table: Float64Array): void {
    if (this.steps > 0) throw new Error('A table can be given before the first step only.')
    if (table.length !== this.table.length)
      throw new RangeError(`a table of ${table.length} cells does not fit one of ${this.table.length}`)
    table.forEach((value, cell) => {
      if (!Number.isNaN(value)) this.table[cell] = value
    })
    this.tableChanged()
  }

  snapshot(): LearnSnapshot {
    const numbers: Record<string, number> = {}
    for (const [name, kept] of Object.entries(this.keptNumbers())) numbers[name] = kept.take()
    numbers.episodes = this.log.count
    numbers.explored = this.last.explored ? 1 : 0
    numbers.lastState = this.last.state
    numbers.lastRow = this.last.row
    numbers.lastReward = this.last.reward
    numbers.lastNext = this.last.next
    numbers.lastEnded = ENDED.indexOf(this.last.ended)
    const arrays: Record<string, Float64Array | Int32Array> = {}
    for (const [name, array] of Object.entries(this.keptArrays())) arrays[name] = array.slice()
    return { numbers, arrays, status: this.status }
  }

  /** @throws Error for a snapshot of another method, or of another version of this one; then nothing is changed */
  restore({ numbers, arrays, status }: LearnSnapshot): void {
    const keptNumbers = Object.entries(this.keptNumbers())
    for (const [name] of keptNumbers)
      if (typeof numbers[name] !== 'number') throw new Error(`The snapshot has no number ${name}.`)
    for (const name of Object.keys(this.keptArrays()))
      if (!arrays[name]) throw new Error(`The snapshot has no array ${name}.`)
    for (const [name, kept] of keptNumbers) kept.put(numbers[name])
    this.log.count = numbers.episodes
    Object.assign(this.last, {
      explored: numbers.explored === 1,
      state: numbers.lastState,
      row: numbers.lastRow,
      reward: numbers.lastReward,
      next: numbers.lastNext,
      ended: ENDED[numbers.lastEnded],
    })
    this.makeRoom()
    for (const [name, array] of Object.entries(this.keptArrays())) array.set(arrays[name])
    this.status = status
    this.changes.count = 0
    // The actor has a level of its own, which is brought up to date only when an episode begins.
    if (this.actor.level !== undefined) this.actor.level = this.level
    this.tableChanged()
  }

  /** What a method learns from one step. `ended` says that the next state is an ending, not that a cap cut it off. */
  protected abstract learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void

  protected beginEpisode(): void {}

  /** Within an episode an action was chosen only after the update before it: for workings that compare. */
  protected noteNext(_row: number): void {}

  /** What it learns when an episode is over, after what it learns from its last step; `observation` is where it was left. */
  protected endEpisode(_group: number, _ended: boolean): void {}

  /** The numbers that make up where the learner is, its own or of something it holds, by name. */
  protected keptNumbers(): Record<string, KeptNumber> {
    return numbersOf<TabularLearner>(this, [
      'steps',
      'state',
      'age',
      'chosen',
      'returned',
      'power',
      'exploring',
      'level',
      'rate',
    ])
  }

  /** The arrays likewise; of those that fill up, the part that is in use. */
  protected keptArrays(): Record<string, Float64Array | Int32Array> {
    const { visits, slots, environment, exploration, ties, table, discounts } = this
    return {
      ...(discounts ? { discounts } : {}),
      ...this.actor.kept?.(),
      table,
      visits,
      slots,
      environment: environment.words,
      exploration: exploration.words,
      ties: ties.words,
    }
  }

  /** Makes arrays that fill up long enough for those of a snapshot; its numbers have been put back. */
  protected makeRoom(): void {}

  /** The table was replaced: what is derived from it has to be made again. */
  protected tableChanged(): void {}

  /** The actor that the settings ask for, on a table of action values. */
  protected actorOn(table: GreedyTable): Actor {
    const { exploration, settings } = this
    return EXPLORATIONS[settings.exploration.way].create({
      table,
      visits: this.visits,
      exploration,
      ties: settings.ties === 'random' ? this.ties : null,
      mostRows: mostRows(this.world.tableStart),
    })
  }

  /** An actor that follows the policy of the settings. */
  protected follower(): Following {
    const { world, settings } = this
    return new Following(world.tableStart, world.toTableRows(settings.policy), this.exploration)
  }

  /** An action for what the agent sees, with exploration as it is now. */
  protected choose(observation: number): number {
    const row = this.actor.choose(observation)
    this.exploring = this.actor.explored ? 1 : 0
    return row
  }

  /** The learning rate at the `count`-th update of a cell, from 1. */
  protected rateAt(count: number): number {
    const { learningRate } = this.settings
    return learningRate.kind === 'visits' ? (this.rate = rateOfVisit(learningRate, count)) : this.rate
  }

  /** Whether a number may stand in the table; ends the run when it has run away. */
  protected sound(value: number, observation: number): boolean {
    if (value >= -this.most && value <= this.most) return true
    const { labels } = this.world.model
    const state = this.world.someState(observation)
    this.status = {
      outcome: 'diverged',
      reason: `The number for ${labels[state]} diverged in step ${formatCount(this.steps + 1)}: ${
        Number.isFinite(value)
          ? `it would have become ${significantNumber(value)}`
          : 'it is no longer a number'
      }, far beyond any return (${formatNumber(largestReturn(this.settings, this.world.rewardLimit))} at the most). It was not written; the timeline goes back to where all was well. Take a smaller learning rate.`,
    }
    return false
  }

  /** Writes down what an update was made of, for its working. @returns where the fields of the method begin */
  protected noteUpdate(
    observation: number,
    cell: number,
    old: number,
    result: number,
    reward: number,
    ahead: number,
    rate: number,
  ): number {
    const { slots } = this
    const at = observation * this.slotSize
    slots[at + SLOT.row] = cell
    slots[at + SLOT.old] = old
    slots[at + SLOT.reward] = reward
    slots[at + SLOT.next] = this.last.next
    slots[at + SLOT.ahead] = ahead
    slots[at + SLOT.result] = result
    slots[at + SLOT.step] = this.steps
    slots[at + SLOT.rate] = rate
    if (this.discounts) this.discounts[observation] = this.discount
    return at
  }

  /** The settings as they were in the last update of an observation: its outcome may have discounted besides. */
  protected settingsOf(observation: number): LearnSettings {
    return this.discounts ? { ...this.settings, discount: this.discounts[observation] } : this.settings
  }

  protected noteChange(cell: number, before: number): void {
    const { changes } = this
    if (changes.count < REMEMBERED) {
      changes.cells[changes.count] = cell
      changes.before[changes.count] = before
    }
    changes.count++
  }

  /** Brings exploration and learning rate up to date. */
  protected tick(): void {
    const { exploration, learningRate } = this.settings
    const at = exploration.level
    this.level = scheduleAt(at, this.countFor(at))
    if (this.actor.level !== undefined) this.actor.level = this.level
    if (learningRate.kind === 'drop')
      this.rate = this.countFor(at) >= standsAfter(at) ? learningRate.to : learningRate.from
    else if (learningRate.kind !== 'visits') this.rate = scheduleAt(learningRate, this.countFor(learningRate))
  }

  protected countFor(schedule: Schedule): number {
    return 'per' in schedule && schedule.per === 'step' ? this.steps : this.log.count
  }

  private step(): void {
    const { world, last, settings } = this
    this.changes.count = 0
    if (this.state < 0) {
      this.state = world.begin(this.environment)
      this.age = 0
      this.returned = 0
      this.power = 1
      this.chosen = -1
      this.tick()
      this.beginEpisode()
    } else if (this.ticksEveryStep) this.tick()
    const { state } = this
    const observation = world.observation[state]
    let row = this.chosen
    if (row < 0) {
      row = this.choose(observation)
      if (this.age > 0) this.noteNext(row)
    }
    this.chosen = -1
    const explored = this.exploring === 1
    world.step(state, row - world.tableStart[observation], this.environment)
    const { next, reward } = world
    this.discount = settings.discount * world.carried
    const ended = world.ending[next] === 1
    const over = ended || this.age + 1 >= settings.cap
    this.visits[row]++
    last.state = state
    last.row = row
    last.reward = reward
    last.next = next
    last.explored = explored
    last.ended = ended ? 'ending' : over ? 'cap' : 'no'
    this.actor.hear?.(row, reward)
    this.learn(observation, row, reward, world.observation[next], ended)
    if (over) this.endEpisode(world.observation[next], ended)
    this.returned += this.power * reward
    this.power *= this.discount
    this.age++
    this.steps++
    this.state = next
    if (!over) {
      if (settings.stop.kind === 'steps') this.checkStop()
      return
    }
    this.log.add(this.returned, this.age, !ended)
    this.state = -1
    this.chosen = -1
    this.checkStop()
  }

  /** Ends the run when its episodes are played or a stop rule is met. */
  protected checkStop(): void {
    const { log, settings, steps } = this
    const { stop } = settings
    if (this.status.outcome !== 'learning') return
    if (log.count >= settings.episodes) this.status = { outcome: 'done' }
    else if (stop.kind === 'steps' && steps >= stop.count)
      this.status = { outcome: 'stopped', reason: `${formatCount(steps)} steps were taken.` }
    else if (stop.kind === 'mean-return' && this.state < 0 && log.count >= stop.over) {
      const mean = log.rollingMean(log.count - 1, stop.over)
      if (mean >= stop.atLeast)
        this.status = {
          outcome: 'stopped',
          reason: `The mean return of the last ${formatCount(stop.over)} episodes is ${formatNumber(mean)}, which is at least ${formatNumber(stop.atLeast)}.`,
        }
    }
  }

  /** What every kernel is told of a run, by the names of its registers; arrays must lie in its memory. */
  protected runRegisters() {
    const { settings, log, visits, environment, exploration } = this
    const { learningRate, cap, discount } = settings
    const byVisits = learningRate.kind === 'visits'
    return {
      visits,
      returns: log.returns,
      lengths: log.lengths,
      environment: environment.words,
      exploration: exploration.words,
      cap,
      discount,
      most: this.most,
      byVisits: byVisits ? 1 : 0,
      from: byVisits ? learningRate.from : 0,
      slowness: byVisits ? learningRate.slowness : 0,
    }
  }

  /** Ends the run because a kernel has met a number that diverged, in the last of its steps. */
  protected noteDiverged(value: number, observation: number): void {
    // The message names the step that it happened in.
    this.steps--
    this.sound(value, observation)
    this.steps++
  }

  /** Fills a table with what the settings say it begins with; endings have no cells, or are left at 0. */
  protected fillStart(table: Float64Array, mayFill?: (cell: number) => boolean): void {
    const { start, seed, run } = this.settings
    if (start.kind === 'zero') return
    const stream = new RandomStream(seed, 'table', run)
    for (let cell = 0; cell < table.length; cell++)
      if (!mayFill || mayFill(cell))
        table[cell] = start.kind === 'constant' ? start.value : (2 * stream.uniform() - 1) * start.spread
  }
}

const ENDED: readonly LastStep['ended'][] = ['no', 'ending', 'cap']

function startSize({ start }: LearnSettings): number {
  return start.kind === 'constant' ? Math.abs(start.value) : start.kind === 'random' ? start.spread : 0
}

/** A number of a table beyond this, in size, has diverged. @param rewardLimit  the largest reward of a step, in size */
export function divergedBeyond(settings: LearnSettings, rewardLimit: number): number {
  return RUNAWAY * largestReturn(settings, rewardLimit)
}

/** No return is larger than this, in size, nor is any value that a table begins with; 1 at least. */
export function largestReturn(settings: LearnSettings, rewardLimit: number): number {
  const { discount, cap } = settings
  const steps = discount < 1 ? Math.min(cap, 1 / (1 - discount)) : cap
  return Math.max(1, rewardLimit * steps + startSize(settings))
}

/** The most rows any observation has. */
export function mostRows(start: Int32Array): number {
  let most = 0
  for (let observation = 0; observation < start.length - 1; observation++)
    most = Math.max(most, start[observation + 1] - start[observation])
  return most
}
