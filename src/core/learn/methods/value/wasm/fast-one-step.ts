import { EXPLORATIONS } from '../../../explore/explorations'
import { OneStep } from '../one-step'
import { advanceFast, type FastSteps } from '../../../fast-steps'
import type { LearnSettings } from '../../../../settings/settings'
import { ONE_STEP_SLOT_SIZE, SLOT } from '../../../slots'
import type { Target } from '../step-working'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { exportsOf, moduleOf, REGISTERS, Room, type Registers } from '../../../../wasm/room'
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
const TARGETS: Record<Target, number> = { best: 0, taken: 1, expected: 2 }

/** Runs that cannot have more steps than this are not either: memories are dear. */
const SHORT = 100_000

const stepsModule = moduleOf(STEPS_CODE)

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
    12 * REMEMBERED
  return Room.of(arrays, 40)
}

/**
 * One-step control whose steps are taken by steps.as when many are asked for. All arrays live in its memory, so that
 * single steps, snapshots and workings are those of the plain learner; a test holds both to the same bits.
 */
class FastOneStep extends OneStep {
  private readonly fastSteps: FastSteps = {
    plain: (limit, episodes) => super.advance(limit, episodes),
    tick: () => this.tick(),
    many: (limit, until) => this.many(limit, until),
    check: () => this.checkStop(),
  }
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>

  constructor(world: World, settings: LearnSettings, target: Target, code: WebAssembly.Module, room: Room) {
    super(world, settings, target, room)
    this.run = exportsOf<{ run(registers: number): number }>(code, room, 'The steps').run
    this.registers = room.registers(INTS, REALS)
    const { greedy, log } = this
    const rewards = room.floats(world.outcomeReward.length)
    rewards.set(world.outcomeReward)
    const ending = room.bytes(world.ending.length)
    ending.set(world.ending)
    this.registers.set({
      observation: room.copied(world.observation),
      ending,
      tableStart: room.copied(world.tableStart),
      rowStart: room.copied(world.rowStart),
      outcomeStart: room.copied(world.outcomeStart),
      outcomeState: room.copied(world.outcomeState),
      outcomeReward: rewards,
      threshold: room.copied(world.threshold),
      startState: room.copied(world.startState),
      startThreshold: room.copied(world.startThreshold),
      startGuide: room.copied(world.startGuide),
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
      starts: world.startState.length,
      cap: settings.cap,
      target: TARGETS[target],
      byVisits: settings.learningRate.kind === 'visits' ? 1 : 0,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
      discount: settings.discount,
      most: this.most,
    })
    if (settings.learningRate.kind === 'visits') {
      const { from, slowness } = settings.learningRate
      this.registers.set({ from, slowness })
    }
  }

  override advance(limit: number, episodes = Infinity): number {
    return advanceFast(this, this.fastSteps, limit, episodes)
  }

  /** Steps by the kernel: as many as asked for, or until so many episodes are finished. */
  private many(limit: number, until: number): number {
    const { last, log, slots } = this
    const { whole, reals, int, real } = this.registers
    whole[int.limit] = limit
    whole[int.until] = until
    whole[int.state] = this.state
    whole[int.chosen] = this.chosen
    whole[int.age] = this.age
    whole[int.exploring] = this.exploring
    whole[int.episodes] = log.count
    whole[int.lastState] = last.state
    whole[int.lastRow] = last.row
    whole[int.lastNext] = last.next
    reals[real.level] = this.level
    reals[real.rate] = this.rate
    reals[real.returned] = this.returned
    reals[real.power] = this.power
    reals[real.steps] = this.steps
    reals[real.lastReward] = last.reward
    const taken = this.run(REGISTERS)
    this.state = whole[int.state]
    this.chosen = whole[int.chosen]
    this.age = whole[int.age]
    this.exploring = whole[int.exploring]
    log.count = whole[int.episodes]
    last.state = whole[int.lastState]
    last.row = whole[int.lastRow]
    last.next = whole[int.lastNext]
    last.explored = whole[int.lastExplored] === 1
    last.ended = whole[int.lastEnded] === 1 ? 'ending' : this.state < 0 ? 'cap' : 'no'
    last.reward = reals[real.lastReward]
    this.rate = reals[real.rate]
    this.returned = reals[real.returned]
    this.power = reals[real.power]
    this.steps = reals[real.steps]
    this.changes.count = 0
    const observation = this.world.observation[last.state]
    if (whole[int.ranAway] === 1) {
      // The message names the step that it happened in.
      this.steps--
      this.sound(reals[real.runaway], observation)
      this.steps++
    } else this.noteChange(last.row, slots[observation * ONE_STEP_SLOT_SIZE + SLOT.old])
    return taken
  }
}
