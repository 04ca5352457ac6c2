import { EXPLORATIONS } from '../../../explore/explorations'
import type { Allocate } from '../../../greedy-table'
import { OneStep } from '../one-step'
import { standsAfter } from '../../../schedule'
import type { LearnSettings } from '../../../../settings/settings'
import { ONE_STEP_SLOT_SIZE, SLOT } from '../../../slots'
import type { Target } from '../step-working'
import type { World } from '../../../world'
import { STEPS_CODE } from './steps-code'

/** Registers of the kernel: the order is that of steps.as. The first ones are addresses. */
const INTS = [
  'observation',
  'ending',
  'tableStart',
  'rowStart',
  'outcomeStart',
  'outcomeState',
  'outcomeReward',
  'threshold',
  'startState',
  'startThreshold',
  'startGuide',
  'values',
  'best',
  'first',
  'count',
  'visits',
  'slots',
  'returns',
  'lengths',
  'environment',
  'exploration',
  'ties',
  'starts',
  'cap',
  'limit',
  'until',
  'target',
  'byVisits',
  'firstOfTies',
  'state',
  'chosen',
  'age',
  'exploring',
  'episodes',
  'lastState',
  'lastRow',
  'lastNext',
  'lastEnded',
  'lastExplored',
  'ranAway',
] as const
const REALS = [
  'discount',
  'level',
  'from',
  'slowness',
  'most',
  'rate',
  'returned',
  'power',
  'steps',
  'lastReward',
  'runaway',
] as const
const INT = Object.fromEntries(INTS.map((name, i) => [name, i])) as Record<(typeof INTS)[number], number>
const REAL = Object.fromEntries(REALS.map((name, i) => [name, i])) as Record<(typeof REALS)[number], number>
const TARGETS: Record<Target, number> = { best: 0, taken: 1, expected: 2 }

/** Where the registers are, and where arrays begin: the module has nothing of its own below. */
const REGISTERS = 1024
const REALS_AT = REGISTERS + 256
const BASE = 2048
const PAGE = 65_536
/** Bytes above which a memory is not asked for. */
const MOST = 1_000_000_000
/** Below so many steps a call is not worth while. */
const FEW = 64
/** Runs that cannot have more steps than this are not either: memories are dear. */
const SHORT = 100_000

let compiled: WebAssembly.Module | null | undefined

/** The module, compiled once; null where WebAssembly is not to be had. */
function stepsModule(): WebAssembly.Module | null {
  if (compiled === undefined)
    try {
      compiled = new WebAssembly.Module(Uint8Array.from(atob(STEPS_CODE), (char) => char.charCodeAt(0)))
    } catch {
      compiled = null
    }
  return compiled
}

/** One-step control with its kernel in WebAssembly where that is to be had and pays, else plainly. */
export function createOneStep(world: World, settings: LearnSettings, target: Target): OneStep {
  const worthWhile =
    EXPLORATIONS[settings.exploration.way].compiled &&
    settings.episodes * settings.cap > SHORT &&
    // The kernel knows one discount for all steps.
    world.model.outcomeDiscount === null
  return (worthWhile ? fastOneStep(world, settings, target) : null) ?? new OneStep(world, settings, target)
}

/** @returns null where WebAssembly is not to be had, or there is not enough memory */
export function fastOneStep(world: World, settings: LearnSettings, target: Target): OneStep | null {
  const code = stepsModule()
  const room = code && sharedRoom(world, settings)
  return code && room ? new FastOneStep(world, settings, target, code, room) : null
}

/** A memory that is given out piece by piece. */
class Room implements Allocate {
  private next = BASE

  constructor(readonly memory: WebAssembly.Memory) {}

  floats(length: number): Float64Array {
    return new Float64Array(this.memory.buffer, this.take(8 * length), length)
  }

  ints(length: number): Int32Array {
    return new Int32Array(this.memory.buffer, this.take(4 * length), length)
  }

  bytes(length: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, this.take(length), length)
  }

  private take(size: number): number {
    const address = this.next
    this.next += 16 * Math.ceil(size / 16)
    return address
  }
}

function sharedRoom(world: World, settings: LearnSettings): Room | null {
  const { model, tableRows } = world
  const { observations, states, rows, outcomes } = model
  const arrays =
    // The world
    4 * (states + observations + 1 + states + 1 + rows + 1 + 2 * outcomes + 3 * world.startState.length) +
    8 * outcomes +
    states +
    // The learner
    8 * (2 * tableRows + observations * (ONE_STEP_SLOT_SIZE + 1)) +
    8 * observations +
    12 * settings.episodes +
    // What is lost between them
    16 * 40
  if (arrays > MOST) return null
  try {
    return new Room(new WebAssembly.Memory({ initial: Math.ceil((BASE + arrays) / PAGE) }))
  } catch {
    return null
  }
}

/**
 * One-step control whose steps are taken by steps.as when many are asked for. All arrays live in its memory, so that
 * single steps, snapshots and workings are those of the plain learner; a test holds both to the same bits.
 */
class FastOneStep extends OneStep {
  private readonly run: (registers: number) => number
  private readonly whole: Int32Array
  private readonly reals: Float64Array

  constructor(world: World, settings: LearnSettings, target: Target, code: WebAssembly.Module, room: Room) {
    super(world, settings, target, room)
    const { memory } = room
    const { exports } = new WebAssembly.Instance(code, {
      env: {
        memory,
        abort: () => {
          throw new Error('The steps in WebAssembly stopped.')
        },
      },
    })
    this.run = exports.run as (registers: number) => number
    this.whole = new Int32Array(memory.buffer, REGISTERS, INTS.length)
    this.reals = new Float64Array(memory.buffer, REALS_AT, REALS.length)
    const { greedy, log } = this
    const copied = (array: Int32Array) => {
      const copy = room.ints(array.length)
      copy.set(array)
      return copy
    }
    const rewards = room.floats(world.outcomeReward.length)
    rewards.set(world.outcomeReward)
    const ending = room.bytes(world.ending.length)
    ending.set(world.ending)
    const addresses: Partial<Record<(typeof INTS)[number], ArrayBufferView>> = {
      observation: copied(world.observation),
      ending,
      tableStart: copied(world.tableStart),
      rowStart: copied(world.rowStart),
      outcomeStart: copied(world.outcomeStart),
      outcomeState: copied(world.outcomeState),
      outcomeReward: rewards,
      threshold: copied(world.threshold),
      startState: copied(world.startState),
      startThreshold: copied(world.startThreshold),
      startGuide: copied(world.startGuide),
      values: greedy.values,
      best: greedy.best,
      first: greedy.first,
      count: greedy.count,
      visits: this.visits,
      slots: this.slots,
      returns: log.returns,
      lengths: log.lengths,
      environment: this.environment.words,
      exploration: this.exploration.words,
      ties: this.ties.words,
    }
    for (const [name, array] of Object.entries(addresses))
      this.whole[INT[name as keyof typeof INT]] = array.byteOffset
    this.whole[INT.starts] = world.startState.length
    this.whole[INT.cap] = settings.cap
    this.whole[INT.target] = TARGETS[target]
    this.whole[INT.byVisits] = settings.learningRate.kind === 'visits' ? 1 : 0
    this.whole[INT.firstOfTies] = settings.ties === 'first' ? 1 : 0
    this.reals[REAL.discount] = settings.discount
    this.reals[REAL.most] = this.most
    if (settings.learningRate.kind === 'visits') {
      this.reals[REAL.from] = settings.learningRate.from
      this.reals[REAL.slowness] = settings.learningRate.slowness
    }
  }

  override advance(limit: number, episodes = Infinity): number {
    const { log, settings } = this
    let taken = 0
    while (taken < limit && log.count < episodes && this.status.outcome === 'learning') {
      const pace = this.pace()
      if (pace === 'step' || limit - taken < FEW) {
        taken += super.advance(Math.min(limit - taken, FEW), episodes)
        continue
      }
      if (this.state < 0) this.tick()
      const { stop } = settings
      const byEpisode = pace === 'episode' || stop.kind === 'mean-return'
      const until = Math.min(episodes, settings.episodes, byEpisode ? log.count + 1 : Infinity)
      const most = Math.min(
        limit - taken,
        stop.kind === 'steps' ? Math.max(1, stop.count - this.steps) : Infinity,
        2 ** 31 - 1,
      )
      taken += this.many(most, until)
      this.checkStop()
    }
    return taken
  }

  /** How long exploration and learning rate stay as they are: a step, an episode, or for good. */
  private pace(): 'step' | 'episode' | 'for good' {
    let pace: 'episode' | 'for good' = 'for good'
    for (const schedule of [this.settings.exploration.level, this.settings.learningRate]) {
      if (!('per' in schedule)) continue
      // The learner takes notice when an episode begins, or with the step after.
      const stands =
        schedule.per === 'step' ? this.steps > standsAfter(schedule) : this.log.count >= standsAfter(schedule)
      if (stands) continue
      if (schedule.per === 'step') return 'step'
      pace = 'episode'
    }
    return pace
  }

  /** Steps by the kernel: as many as asked for, or until so many episodes are finished. */
  private many(limit: number, until: number): number {
    const { whole, reals, last, log, slots } = this
    whole[INT.limit] = limit
    whole[INT.until] = until
    whole[INT.state] = this.state
    whole[INT.chosen] = this.chosen
    whole[INT.age] = this.age
    whole[INT.exploring] = this.exploring
    whole[INT.episodes] = log.count
    whole[INT.lastState] = last.state
    whole[INT.lastRow] = last.row
    whole[INT.lastNext] = last.next
    reals[REAL.level] = this.level
    reals[REAL.rate] = this.rate
    reals[REAL.returned] = this.returned
    reals[REAL.power] = this.power
    reals[REAL.steps] = this.steps
    reals[REAL.lastReward] = last.reward
    const taken = this.run(REGISTERS)
    this.state = whole[INT.state]
    this.chosen = whole[INT.chosen]
    this.age = whole[INT.age]
    this.exploring = whole[INT.exploring]
    log.count = whole[INT.episodes]
    last.state = whole[INT.lastState]
    last.row = whole[INT.lastRow]
    last.next = whole[INT.lastNext]
    last.explored = whole[INT.lastExplored] === 1
    last.ended = whole[INT.lastEnded] === 1 ? 'ending' : this.state < 0 ? 'cap' : 'no'
    last.reward = reals[REAL.lastReward]
    this.rate = reals[REAL.rate]
    this.returned = reals[REAL.returned]
    this.power = reals[REAL.power]
    this.steps = reals[REAL.steps]
    this.changes.count = 0
    const observation = this.world.observation[last.state]
    if (whole[INT.ranAway] === 1) {
      // The message names the step that it happened in.
      this.steps--
      this.sound(reals[REAL.runaway], observation)
      this.steps++
    } else this.noteChange(last.row, slots[observation * ONE_STEP_SLOT_SIZE + SLOT.old])
    return taken
  }
}
